<?php

declare(strict_types=1);

use Hafen\Document\SessionCodec;
use Hafen\Edit\EditRefused;
use Hafen\Processor\ProcessorCatalogue;
use Hafen\Refusal;
use Hafen\Session\Channel\ChannelKind;
use Hafen\Session\Channel\Send;
use Hafen\Session\Channel\TapPoint;
use Hafen\Session\Channel\Width;
use Hafen\Session\Insert\Branch;
use Hafen\Session\Insert\Split;
use Hafen\Session\Insert\SplitBy;
use Hafen\Session\Session;
use Hafen\Session\Source\TapSource;
use Hafen\Tests\Support\MemoryLibrary;
use Hafen\Tests\Support\Mix;
use Hafen\Tests\Support\Signal;

require_once __DIR__.'/../Support/edited.php';

function harbour(): Session
{
    return Mix::session([
        Mix::track('cello', [Mix::insert('i1', 'filter'), Mix::insert('i2', 'compressor')], length: 6000)->withFader(-4.0)->withPan(-0.3)->withSends([
            new Send('n1', 'plate', -12.0),
            new Send('n2', 'cue', -3.0, TapPoint::PreFader),
        ]),
        Mix::track('drum', [
            Mix::insert('i3', 'parametric-eq', ['bell-1-gain' => 3.0]),
            Mix::split('s1', [
                new Branch('b1', 'Dry'),
                new Branch('b2', 'Crush', -9.0, 0.2, inserts: [Mix::insert('i4', 'compressor', ['threshold' => -30.0]), Mix::insert('i5', 'drive')]),
            ]),
            Mix::insert('i6', 'filter'),
        ], length: 6000)->withOutput('reeds')->withFader(-2.0)->withSends([new Send('n3', 'plate', -6.0, TapPoint::PreFader), new Send('n4', 'cue', -9.0, TapPoint::Source)]),
        Mix::track('choir', [Mix::split('s2', [new Branch('b3', 'Low', inserts: [Mix::insert('i7', 'gain', ['gain' => -3.0])]), new Branch('b4', 'High')], SplitBy::Frequency, 500.0)], Width::Stereo, 6000),
        Mix::track('spare', length: 6000)->withSource(new Hafen\Session\Source\ClipSource),
        Mix::bus('reeds', ChannelKind::Group)->withFader(-1.0),
        Mix::bus('plate', ChannelKind::Return, [Mix::insert('i8', 'reverb', ['decay' => 0.5])], 'wash'),
        Mix::bus('wash', ChannelKind::Return),
        Mix::bus('cue', ChannelKind::Cue, output: 'hw:3-4'),
    ], [Mix::insert('i9', 'limiter', on: false)], 6000);
}

function harbourSound(Session $session, string $tap = 'main'): Hafen\Audio\Block
{
    return Mix::render($session, new MemoryLibrary([
        'cello' => [Signal::noise(6000, 1, 0.2)],
        'drum' => [Signal::noise(6000, 2, 0.2)],
        'choir' => [Signal::noise(6000, 3, 0.2), Signal::noise(6000, 4, 0.2)],
    ]), tap: $tap);
}

function sendOf(Session $session, string $id): ?Send
{
    return $session->send($id)?->send;
}

function splitOf(Session $session, string $id): Split
{
    $insert = $session->locate($id)?->insert;

    return $insert instanceof Split ? $insert : throw new LogicException("{$id} is not a split");
}

/** @return list<string> */
function namesIn(array $inserts): array
{
    return array_map(static fn ($insert): string => $insert instanceof Split ? 'split' : $insert->processor, $inserts);
}

it('routes what it names and nothing else', function (array $edit, callable $see, mixed $expected): void {
    $before = harbour();
    $codec = new SessionCodec(ProcessorCatalogue::standard());
    $document = $codec->encode($before);
    $after = edited($before, $edit);
    expect($see($after))->toEqual($expected)
        ->and($codec->encode($before))->toBe($document)
        ->and($codec->decode($codec->encode($after)))->toEqual($after);
})->with([
    'a group' => [['type' => 'add-channel', 'kind' => 'group', 'name' => 'Strings'], fn (Session $s) => [array_column($s->channels, 'id'), $s->channel('strings')->output], [['cello', 'drum', 'choir', 'spare', 'reeds', 'strings', 'plate', 'wash', 'cue', 'main'], 'main']],
    'a return is solo-safe' => [['type' => 'add-channel', 'kind' => 'return', 'name' => 'Hall'], fn (Session $s) => [$s->channel('hall')->soloSafe, array_search('hall', array_column($s->channels, 'id'), true)], [true, 7]],
    'a cue takes the next free pair' => [['type' => 'add-channel', 'kind' => 'cue', 'name' => 'Cue Voice'], fn (Session $s) => $s->channel('cue-voice')->output, 'hw:5-6'],
    'a track fed by a tap' => [['type' => 'add-channel', 'name' => 'Again', 'tap' => ['channel' => 'plate', 'tap' => 'pre-fader']], fn (Session $s) => $s->channel('again')->source, new TapSource('plate', TapPoint::PreFader)],
    'a track fed by the main goes nowhere' => [['type' => 'add-channel', 'name' => 'Again', 'tap' => ['channel' => 'main', 'tap' => 'post-fader']], fn (Session $s) => $s->channel('again')->output, 'none'],
    'output to a group' => [['type' => 'set-output', 'channels' => ['cello', 'choir'], 'output' => 'reeds'], fn (Session $s) => [$s->channel('cello')->output, $s->channel('choir')->output], ['reeds', 'reeds']],
    'output nowhere' => [['type' => 'set-output', 'channels' => ['cello'], 'output' => 'none'], fn (Session $s) => $s->channel('cello')->output, 'none'],
    'a cue to another pair' => [['type' => 'set-output', 'channels' => ['cue'], 'output' => 'hw:7-8'], fn (Session $s) => $s->channel('cue')->output, 'hw:7-8'],
    'a tap as source' => [['type' => 'set-source', 'channel' => 'spare', 'source' => ['type' => 'tap', 'channel' => 'cello', 'tap' => 'source']], fn (Session $s) => $s->channel('spare')->source, new TapSource('cello', TapPoint::Source)],
    'alignment off' => [['type' => 'set-aligned', 'channels' => ['drum'], 'aligned' => false], fn (Session $s) => $s->channel('drum')->aligned, false],
    'hide' => [['type' => 'set-hidden', 'channels' => ['drum', 'choir'], 'hidden' => true], fn (Session $s) => [$s->channel('drum')->hidden, $s->channel('cello')->hidden], [true, false]],
    'a send after the fader' => [['type' => 'add-send', 'channels' => ['choir', 'reeds'], 'to' => 'plate', 'gain' => -8], fn (Session $s) => [sendOf($s, 'n5'), sendOf($s, 'n6')], [new Send('n5', 'plate', -8.0), new Send('n6', 'plate', -8.0)]],
    'a send to a cue is before the fader' => [['type' => 'add-send', 'channels' => ['choir'], 'to' => 'cue'], fn (Session $s) => sendOf($s, 'n5'), new Send('n5', 'cue', 0.0, TapPoint::PreFader)],
    'from a return to a return' => [['type' => 'add-send', 'channels' => ['plate'], 'to' => 'wash'], fn (Session $s) => sendOf($s, 'n5')?->to, 'wash'],
    'send amounts' => [['type' => 'set-send-gain', 'sends' => ['n1', 'n3'], 'gain' => -20.5], fn (Session $s) => [sendOf($s, 'n1')?->gain, sendOf($s, 'n3')?->gain, sendOf($s, 'n2')?->gain], [-20.5, -20.5, -3.0]],
    'send amounts together' => [['type' => 'move-sends', 'sends' => ['n1', 'n3'], 'by' => 2], fn (Session $s) => [sendOf($s, 'n1')?->gain, sendOf($s, 'n3')?->gain], [-10.0, -4.0]],
    'send taps' => [['type' => 'set-send-tap', 'sends' => ['n1', 'n4'], 'tap' => 'pre-fader'], fn (Session $s) => [sendOf($s, 'n1')?->tap, sendOf($s, 'n4')?->tap], [TapPoint::PreFader, TapPoint::PreFader]],
    'send off' => [['type' => 'set-send-on', 'sends' => ['n1'], 'on' => false], fn (Session $s) => sendOf($s, 'n1')?->on, false],
    'send pan' => [['type' => 'set-send-pan', 'sends' => ['n2'], 'pan' => 0.5], fn (Session $s) => sendOf($s, 'n2')?->pan, 0.5],
    'remove sends' => [['type' => 'remove-sends', 'sends' => ['n1', 'n4']], fn (Session $s) => [array_column($s->channel('cello')->sends, 'id'), array_column($s->channel('drum')->sends, 'id')], [['n2'], ['n3']]],
    'copy a send' => [['type' => 'copy-sends', 'sends' => ['n1'], 'channels' => ['choir']], fn (Session $s) => $s->channel('choir')->sends, [new Send('n5', 'plate', -12.0)]],
    'copy all sends over what is there' => [['type' => 'copy-sends', 'sends' => ['n1', 'n2'], 'channels' => ['drum', 'choir']], fn (Session $s) => [$s->channel('drum')->sends, array_column($s->channel('choir')->sends, 'to')], [[new Send('n3', 'plate', -12.0), new Send('n4', 'cue', -3.0, TapPoint::PreFader)], ['plate', 'cue']]],
    'a block of sends' => [['type' => 'put-sends', 'sends' => [['channel' => 'cello', 'to' => 'plate', 'gain' => -20], ['channel' => 'choir', 'to' => 'plate', 'gain' => -20], ['channel' => 'choir', 'to' => 'cue', 'gain' => null, 'pan' => 0.5, 'on' => false]]], fn (Session $s) => [sendOf($s, 'n1'), $s->channel('choir')->sends], [new Send('n1', 'plate', -20.0), [new Send('n5', 'plate', -20.0), new Send('n6', 'cue', null, TapPoint::PreFader, false, 0.5)]]],
    'to a new return' => [['type' => 'send-to-new-return', 'channels' => ['cello', 'choir'], 'processor' => 'reverb', 'name' => 'Hall'], fn (Session $s) => [$s->channel('hall')->inserts[0]->mix, $s->channel('hall')->soloSafe, $s->channel('choir')->sendTo('hall')?->gain, $s->channel('choir')->sendTo('hall')?->tap], [1.0, true, -12.0, TapPoint::PostFader]],
    'a second return of the same name' => [['type' => 'send-to-new-return', 'channels' => ['cello'], 'processor' => 'reverb', 'name' => 'Plate'], fn (Session $s) => [$s->channel('plate-2')->name, $s->channel('plate-2')->inserts[0]->processor], ['Plate 2', 'reverb']],
    'group the selection' => [['type' => 'group-channels', 'channels' => ['cello', 'choir'], 'name' => 'Strings'], fn (Session $s) => [$s->channel('cello')->output, $s->channel('choir')->output, $s->channel('strings')->output, $s->channel('cello')->fader], ['strings', 'strings', 'main', -4.0]],
    'a group inside a group' => [['type' => 'group-channels', 'channels' => ['drum']], fn (Session $s) => [$s->channel('drum')->output, $s->channel('group')->output], ['group', 'reeds']],
    'a group above a group and its member' => [['type' => 'group-channels', 'channels' => ['drum', 'reeds']], fn (Session $s) => [$s->channel('drum')->output, $s->channel('reeds')->output], ['reeds', 'group']],
    'the mix to a cue' => [['type' => 'copy-mix-to-cue', 'cue' => 'cue'], fn (Session $s) => [sendOf($s, 'n2'), sendOf($s, 'n4'), $s->channel('choir')->sendTo('cue')?->gain, $s->channel('plate')->sends], [new Send('n2', 'cue', -4.0, TapPoint::PreFader, true, -0.3), new Send('n4', 'cue', -3.0, TapPoint::PreFader), 0.0, []]],
    'remove a group: its members go where it went' => [['type' => 'remove-channels', 'channels' => ['reeds']], fn (Session $s) => $s->channel('drum')->output, 'main'],
    'remove a return with the sends to it' => [['type' => 'remove-channels', 'channels' => ['wash', 'plate']], fn (Session $s) => array_column($s->channel('cello')->sends, 'id'), ['n2']],
    'split a row' => [['type' => 'add-split', 'channel' => 'cello', 'at' => 1], fn (Session $s) => [namesIn($s->channel('cello')->inserts), array_column(splitOf($s, 's3')->branches, 'name')], [['filter', 'split', 'compressor'], ['Dry', 'Branch 2']]],
    'split a branch by frequency' => [['type' => 'add-split', 'channel' => 'drum', 'branch' => 'b2', 'at' => 0, 'by' => 'frequency', 'branches' => 3], fn (Session $s) => [namesIn(splitOf($s, 's1')->branches[1]->inserts), splitOf($s, 's3')->crossovers], [['split', 'compressor', 'drive'], [250.0, 2500.0]]],
    'into left and right after the fader' => [['type' => 'add-split', 'channel' => 'choir', 'row' => 'postInserts', 'by' => 'left-right'], fn (Session $s) => array_column(splitOf($s, 's3')->branches, 'name'), ['Left', 'Right']],
    'wrap inserts in a branch' => [['type' => 'wrap-in-branch', 'inserts' => ['i2', 'i1']], fn (Session $s) => [namesIn($s->channel('cello')->inserts), namesIn(splitOf($s, 's3')->branches[1]->inserts)], [['split'], ['filter', 'compressor']]],
    'wrap inside a branch' => [['type' => 'wrap-in-branch', 'inserts' => ['i5']], fn (Session $s) => namesIn(splitOf($s, 's1')->branches[1]->inserts), ['compressor', 'split']],
    'a stored split, under new ids' => [['type' => 'paste-inserts', 'channel' => 'cello', 'at' => 1, 'name' => 'Crush', 'inserts' => [['type' => 'split', 'id' => 's1', 'branches' => [['id' => 'b1', 'name' => 'Dry'], ['id' => 'b2', 'name' => 'Wet', 'gain' => -3, 'inserts' => [['type' => 'processor', 'id' => 'i1', 'processor' => 'drive']]]]]]], fn (Session $s) => [namesIn($s->channel('cello')->inserts), array_column(splitOf($s, 's3')->branches, 'id'), splitOf($s, 's3')->branches[1]->inserts[0]->id], [['filter', 'split', 'compressor'], ['b5', 'b6'], 'i10']],
    'one more branch' => [['type' => 'add-branch', 'split' => 's1', 'name' => 'Wide'], fn (Session $s) => array_column(splitOf($s, 's1')->branches, 'name'), ['Dry', 'Crush', 'Wide']],
    'one more band' => [['type' => 'add-branch', 'split' => 's2'], fn (Session $s) => [splitOf($s, 's2')->crossovers, count(splitOf($s, 's2')->branches)], [[500.0, 1000.0], 3]],
    'one branch fewer' => [['type' => 'remove-branch', 'branch' => 'b1'], fn (Session $s) => array_column(splitOf($s, 's1')->branches, 'id'), ['b2']],
    'rename a branch' => [['type' => 'rename-branch', 'branch' => 'b2', 'name' => 'Squash'], fn (Session $s) => $s->branch('b2')->branch->name, 'Squash'],
    'branch level' => [['type' => 'set-branch-gain', 'branches' => ['b1', 'b4'], 'gain' => -6], fn (Session $s) => [$s->branch('b1')->branch->gain, $s->branch('b4')->branch->gain, $s->branch('b2')->branch->gain], [-6.0, -6.0, -9.0]],
    'branch pan, mute, solo' => [['type' => 'set-branch-mute', 'branches' => ['b2'], 'mute' => true], fn (Session $s) => $s->branch('b2')->branch->mute, true],
    'branch solo' => [['type' => 'set-branch-solo', 'branches' => ['b2'], 'solo' => true], fn (Session $s) => $s->branch('b2')->branch->solo, true],
    'branch pan' => [['type' => 'set-branch-pan', 'branches' => ['b2'], 'pan' => -1], fn (Session $s) => $s->branch('b2')->branch->pan, -1.0],
    'branch polarity' => [['type' => 'set-branch-polarity', 'branches' => ['b2'], 'invert' => true], fn (Session $s) => $s->branch('b2')->branch->invert, true],
    'crossover' => [['type' => 'set-crossovers', 'split' => 's2', 'crossovers' => [720]], fn (Session $s) => splitOf($s, 's2')->crossovers, [720.0]],
    'dissolve, keep one' => [['type' => 'dissolve-split', 'split' => 's1', 'keep' => 'b2'], fn (Session $s) => namesIn($s->channel('drum')->inserts), ['parametric-eq', 'compressor', 'drive', 'filter']],
    'an insert into a branch' => [['type' => 'move-insert', 'insert' => 'i6', 'channel' => 'drum', 'branch' => 'b1'], fn (Session $s) => [namesIn($s->channel('drum')->inserts), namesIn($s->branch('b1')->branch->inserts)], [['parametric-eq', 'split'], ['filter']]],
    'out of a branch to the front' => [['type' => 'move-insert', 'insert' => 'i5', 'channel' => 'drum', 'at' => 0], fn (Session $s) => [namesIn($s->channel('drum')->inserts), namesIn($s->branch('b2')->branch->inserts)], [['drive', 'parametric-eq', 'split', 'filter'], ['compressor']]],
    'between branches, forwards in one' => [['type' => 'move-insert', 'insert' => 'i4', 'channel' => 'drum', 'branch' => 'b2', 'at' => 2], fn (Session $s) => namesIn($s->branch('b2')->branch->inserts), ['drive', 'compressor']],
    'a whole split to another channel' => [['type' => 'move-insert', 'insert' => 's1', 'channel' => 'cello', 'at' => 1], fn (Session $s) => [namesIn($s->channel('cello')->inserts), namesIn($s->channel('drum')->inserts)], [['filter', 'split', 'compressor'], ['parametric-eq', 'filter']]],
    'a copy of a split has ids of its own' => [['type' => 'copy-inserts', 'inserts' => ['s1'], 'channels' => ['cello', 'choir']], fn (Session $s) => [array_column(splitOf($s, 's3')->branches, 'id'), array_column(splitOf($s, 's4')->branches, 'id')], [['b5', 'b6'], ['b7', 'b8']]],
    'swap across a branch' => [['type' => 'swap-inserts', 'insert' => 'i4', 'with' => 'i1'], fn (Session $s) => [namesIn($s->channel('cello')->inserts), namesIn($s->branch('b2')->branch->inserts)], [['compressor', 'compressor'], ['filter', 'drive']]],
    'add to a branch' => [['type' => 'add-insert', 'channels' => ['drum'], 'processor' => 'gain', 'branch' => 'b1'], fn (Session $s) => namesIn($s->branch('b1')->branch->inserts), ['gain']],
    'a reverb on a return is whole' => [['type' => 'add-insert', 'channels' => ['wash'], 'processor' => 'reverb'], fn (Session $s) => $s->channel('wash')->inserts[0]->mix, 1.0],
    'remove a split and what is in it' => [['type' => 'remove-inserts', 'inserts' => ['s1', 'i4']], fn (Session $s) => namesIn($s->channel('drum')->inserts), ['parametric-eq', 'filter']],
    'bypass in a branch' => [['type' => 'set-insert-on', 'inserts' => ['i4', 's1'], 'on' => false], fn (Session $s) => [$s->locate('i4')->insert->isOn(), $s->locate('s1')->insert->isOn()], [false, false]],
]);

it('refuses what the rules of routing forbid, and says why', function (array $edit, string $place, string $says): void {
    try {
        edited(harbour(), $edit);
        test()->fail('The edit was made.');
    } catch (Refusal $refusal) {
        expect($refusal->location)->toBe($place)->and($refusal->getMessage())->toContain($says);
    }
})->with([
    'a loop of sends' => [['type' => 'add-send', 'channels' => ['wash'], 'to' => 'plate'], 'loop', 'Plate -> Wash -> Plate'],
    'a loop of outputs' => [['type' => 'set-output', 'channels' => ['wash'], 'output' => 'plate'], 'loop', 'Plate -> Wash -> Plate'],
    'a return into itself' => [['type' => 'add-send', 'channels' => ['plate'], 'to' => 'plate'], 'loop', 'Plate -> Plate'],
    'a loop in a block' => [['type' => 'put-sends', 'sends' => [['channel' => 'cello', 'to' => 'plate', 'gain' => -3], ['channel' => 'wash', 'to' => 'plate']]], 'loop', 'Plate -> Wash -> Plate'],
    'a loop by copying' => [['type' => 'copy-sends', 'sends' => ['n1'], 'channels' => ['wash']], 'loop', 'Plate -> Wash -> Plate'],
    'a loop through a tap' => [['type' => 'set-source', 'channel' => 'spare', 'source' => ['type' => 'tap', 'channel' => 'main', 'tap' => 'source']], 'loop', 'Spare -> Main -> Spare'],
    'a send to the main' => [['type' => 'add-send', 'channels' => ['cello'], 'to' => 'main'], 'send', 'Sends go to returns, cues and groups'],
    'a second send' => [['type' => 'add-send', 'channels' => ['cello'], 'to' => 'plate'], 'send', 'sends to Plate already'],
    'a send from a cue' => [['type' => 'add-send', 'channels' => ['cue'], 'to' => 'plate'], 'send', 'sends nowhere'],
    'output to a cue' => [['type' => 'set-output', 'channels' => ['cello'], 'output' => 'cue'], 'output', 'Outputs go to groups'],
    'output to a track' => [['type' => 'set-output', 'channels' => ['cello'], 'output' => 'drum'], 'output', 'Drum is a track'],
    'a track on the interface' => [['type' => 'set-output', 'channels' => ['cello'], 'output' => 'hw:3-4'], 'output', 'only the main and cues do'],
    'a pair that is taken' => [['type' => 'set-output', 'channels' => ['cue'], 'output' => 'hw:1-2'], 'output', 'Main already goes to'],
    'a pair that is not there' => [['type' => 'set-output', 'channels' => ['cue'], 'output' => 'hw:9-10'], 'output', 'hw:7-8'],
    'a tap over clips' => [['type' => 'set-source', 'channel' => 'cello', 'source' => ['type' => 'tap', 'channel' => 'drum', 'tap' => 'source']], 'source', 'carries clips'],
    'grouping the main' => [['type' => 'group-channels', 'channels' => ['main']], 'group', 'cannot go into a group'],
    'a mix to a return' => [['type' => 'copy-mix-to-cue', 'cue' => 'plate'], 'cue', 'A mix is copied to a cue'],
    'a file on a group' => [['type' => 'add-channel', 'kind' => 'group', 'name' => 'X', 'file' => ['file' => 'x', 'length' => 5, 'width' => 'mono']], '/file', 'only a track'],
    'a split into itself' => [['type' => 'move-insert', 'insert' => 's1', 'channel' => 'drum', 'branch' => 'b1'], 'split', 'one of its own branches'],
    'inserts that are apart' => [['type' => 'wrap-in-branch', 'inserts' => ['i3', 'i6']], 'selection', 'next to each other'],
    'a third side' => [['type' => 'add-split', 'channel' => 'cello', 'by' => 'mid-side', 'branches' => 3], '/branches', 'from 2 to 2'],
    'the last band but one' => [['type' => 'remove-branch', 'branch' => 'b3'], 'branch', 'needs at least 2 branches'],
    'crossovers out of order' => [['type' => 'add-split', 'channel' => 'cello', 'by' => 'frequency', 'branches' => 3, 'crossovers' => [900, 300]], '/crossovers/1', 'above the one before it'],
    'a stored split with an id twice' => [['type' => 'paste-inserts', 'channel' => 'cello', 'inserts' => [['type' => 'processor', 'id' => 'i1', 'processor' => 'drive'], ['type' => 'processor', 'id' => 'i1', 'processor' => 'drive']]], '/inserts/1/id', 'stands twice'],
    'crossovers of a plain split' => [['type' => 'set-crossovers', 'split' => 's1', 'crossovers' => []], 'crossovers', 'Only a split by frequency'],
    'the level of bands' => [['type' => 'keep-level', 'split' => 's2'], 'split', 'no rise to take back'],
    'a split that is none' => [['type' => 'keep-level', 'split' => 'i1'], 'split', 'not a split'],
    'a branch that is gone' => [['type' => 'set-branch-gain', 'branches' => ['b99'], 'gain' => 0], 'branch', 'no branch "b99"'],
    'a send that is gone' => [['type' => 'set-send-gain', 'sends' => ['n99'], 'gain' => 0], 'send', 'no send "n99"'],
    'no sends' => [['type' => 'set-send-on', 'sends' => [], 'on' => true], 'selection', 'No channel'],
]);

it('refuses to remove what another takes its sound from', function (): void {
    $session = edited(harbour(), ['type' => 'set-source', 'channel' => 'spare', 'source' => ['type' => 'tap', 'channel' => 'cello', 'tap' => 'source']]);
    expect(fn () => edited($session, ['type' => 'remove-channels', 'channels' => ['cello']]))->toThrow(EditRefused::class, 'Spare takes its sound from a tap of Cello')
        ->and(array_column(edited($session, ['type' => 'remove-channels', 'channels' => ['cello', 'spare']])->channels, 'id'))->not->toContain('cello');
});

it('keeps splits from nesting without end', function (): void {
    $session = edited(harbour(), ['type' => 'add-split', 'channel' => 'cello']);
    for ($depth = 2; $depth <= 8; ++$depth) {
        $branch = splitOf($session, 's'.($depth + 1))->branches[0]->id;
        $session = edited($session, ['type' => 'add-split', 'channel' => 'cello', 'branch' => $branch]);
    }
    $deepest = splitOf($session, 's10')->branches[0]->id;
    expect(fn () => edited($session, ['type' => 'add-split', 'channel' => 'cello', 'branch' => $deepest]))->toThrow(EditRefused::class, 'at most 8 deep');
});

it('groups without a change of sound', function (): void {
    $grouped = edited(harbour(), ['type' => 'group-channels', 'channels' => ['cello', 'choir', 'plate']]);
    expect(Mix::difference(harbourSound($grouped, 'main:source'), harbourSound(edited(harbour(), ['type' => 'set-output', 'channels' => ['plate'], 'output' => 'main']), 'main:source')))->toBeLessThan(1e-12);
});

it('makes a cue that sounds as the tracks in the main do, and leaves it alone afterwards', function (): void {
    // Without the returns, which stay out, and with a group that does nothing but its fader.
    $dry = edited(harbour(), ['type' => 'set-mute', 'channels' => ['wash'], 'mute' => true]);
    $cued = edited($dry, ['type' => 'copy-mix-to-cue', 'cue' => 'cue']);
    $cue = harbourSound($cued, 'cue:source');
    expect(Mix::difference($cue, harbourSound($dry, 'main:source')))->toBeLessThan(1e-12)->and(Signal::rms($cue->left))->toBeGreaterThan(0.01);
    $moved = edited(edited($cued, ['type' => 'set-mute', 'channels' => ['choir'], 'mute' => true]), ['type' => 'set-fader', 'channels' => ['cello', 'reeds'], 'gain' => -30]);
    expect(harbourSound($moved, 'cue:source'))->toEqual($cue);
});

it('leaves out of a cue what takes its sound from there or listens to it', function (): void {
    $session = edited(harbour(), ['type' => 'add-channel', 'name' => 'Overdub', 'tap' => ['channel' => 'cue', 'tap' => 'post-fader']]);
    $session = edited($session, ['type' => 'set-sidechain', 'insert' => 'i2', 'sidechain' => ['channel' => 'spare', 'tap' => 'source']]);
    $after = edited($session, ['type' => 'copy-mix-to-cue', 'cue' => 'cue']);
    expect($after->channel('overdub')->sendTo('cue'))->toBeNull()
        ->and($after->channel('cello')->sendTo('cue')?->gain)->toBe(-4.0)
        ->and(Hafen\Routing\Routes::of($after)->loop())->toBeNull();
});

it('brings equal branches back to the level that went in', function (): void {
    $equal = edited(edited(harbour(), ['type' => 'add-split', 'channel' => 'cello', 'at' => 0]), ['type' => 'add-branch', 'split' => 's3']);
    $level = static fn (Session $session): float => 20 * log10(Signal::rms(harbourSound($session, 'cello:insert:s3')->left));
    $before = 20 * log10(Signal::rms(harbourSound($equal, 'cello:into:s3')->left));
    expect($level($equal) - $before)->toEqualWithDelta(20 * log10(3), 1e-6)
        ->and($level(edited($equal, ['type' => 'keep-level', 'split' => 's3'])) - $before)->toEqualWithDelta(0.0, 0.001);
});

it('pulls a branch out into a channel, and all sounds the same', function (string $branch): void {
    $before = harbour();
    $after = edited($before, ['type' => 'pull-out-branch', 'branch' => $branch]);
    expect(count($after->channels))->toBe(count($before->channels) + 1);
    foreach (['main', 'plate', 'wash', 'cue', 'reeds'] as $tap) {
        expect(Mix::difference(harbourSound($after, $tap), harbourSound($before, $tap)))->toBeLessThan(1e-12, $tap);
    }
})->with(['b1', 'b2', 'b3', 'b4']);

it('pulls a branch out of a split with a solo in it', function (): void {
    foreach (['b1', 'b2'] as $branch) {
        $before = edited(harbour(), ['type' => 'set-branch-solo', 'branches' => ['b2'], 'solo' => true]);
        $after = edited($before, ['type' => 'pull-out-branch', 'branch' => $branch]);
        expect(Mix::difference(harbourSound($after), harbourSound($before)))->toBeLessThan(1e-12);
    }
});

it('does not pull a branch out where it would sound different', function (array $first, string $says): void {
    expect(fn () => edited(edited(harbour(), $first), ['type' => 'pull-out-branch', 'branch' => 'b2']))->toThrow(EditRefused::class, $says);
})->with([
    'a compressor after it' => [['type' => 'add-insert', 'channels' => ['drum'], 'processor' => 'compressor'], 'Compressor comes after the split and reacts to the sum'],
    'a limiter after the fader' => [['type' => 'add-insert', 'channels' => ['drum'], 'processor' => 'limiter', 'row' => 'postInserts'], 'Limiter comes after the split'],
    'the split bypassed' => [['type' => 'set-insert-on', 'inserts' => ['s1'], 'on' => false], 'bypassed'],
    'another channel at its tap' => [['type' => 'set-source', 'channel' => 'spare', 'source' => ['type' => 'tap', 'channel' => 'drum', 'tap' => 'pre-fader']], 'would lose the branch'],
    'the only branch' => [['type' => 'remove-branch', 'branch' => 'b1'], 'only branch'],
]);
