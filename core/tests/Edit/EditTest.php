<?php

declare(strict_types=1);

use Hafen\Document\InvalidDocument;
use Hafen\Document\SessionCodec;
use Hafen\Edit\EditRefused;
use Hafen\Processor\ProcessorCatalogue;
use Hafen\Refusal;
use Hafen\Session\Session;
use Hafen\Session\Source\Clip;
use Hafen\Session\Source\ClipSource;
use Hafen\Tests\Support\MemoryLibrary;
use Hafen\Tests\Support\Mix;
use Hafen\Tests\Support\Signal;

require_once __DIR__.'/../Support/edited.php';

function twoTracks(): Session
{
    return Mix::session([
        Mix::track('cello', [Mix::insert('i1', 'filter'), Mix::insert('i2', 'compressor'), Mix::insert('i3', 'reverb', mix: 0.3)]),
        Mix::track('bass', [Mix::insert('i4', 'drive')]),
    ], [Mix::insert('i5', 'limiter')]);
}

/** @return list<string> processors of a channel's row */
function rowOf(Session $session, string $channel, string $row = 'inserts'): array
{
    return array_map(static fn ($insert): string => $insert->processor, $session->channel($channel)->{$row});
}

it('changes what it names and nothing else', function (array $edit, callable $see, mixed $expected): void {
    $before = twoTracks();
    $codec = new SessionCodec(ProcessorCatalogue::standard());
    $document = $codec->encode($before);
    $after = edited($before, $edit);
    expect($see($after))->toEqual($expected)
        ->and($codec->encode($before))->toBe($document)
        ->and($codec->decode($codec->encode($after)))->toEqual($after);
})->with([
    'fader' => [['type' => 'set-fader', 'channels' => ['cello'], 'gain' => -3.5], fn (Session $s) => [$s->channel('cello')->fader, $s->channel('bass')->fader], [-3.5, 0.0]],
    'fader to silence' => [['type' => 'set-fader', 'channels' => ['cello'], 'gain' => null], fn (Session $s) => $s->channel('cello')->fader, null],
    'faders together' => [['type' => 'move-faders', 'channels' => ['cello', 'bass'], 'by' => -2.0], fn (Session $s) => [$s->channel('cello')->fader, $s->channel('bass')->fader], [-2.0, -2.0]],
    'trim' => [['type' => 'set-trim', 'channels' => ['cello', 'bass'], 'gain' => -6.0], fn (Session $s) => [$s->channel('cello')->trim->gain, $s->channel('bass')->trim->gain], [-6.0, -6.0]],
    'trims together' => [['type' => 'move-trims', 'channels' => ['cello'], 'by' => 1.5], fn (Session $s) => $s->channel('cello')->trim->gain, 1.5],
    'polarity' => [['type' => 'set-polarity', 'channels' => ['bass'], 'invert' => true], fn (Session $s) => $s->channel('bass')->trim->invert, true],
    'pan' => [['type' => 'set-pan', 'channels' => ['bass'], 'pan' => -0.25], fn (Session $s) => $s->channel('bass')->pan, -0.25],
    'mute' => [['type' => 'set-mute', 'channels' => ['bass'], 'mute' => true], fn (Session $s) => $s->channel('bass')->mute, true],
    'solo' => [['type' => 'set-solo', 'channels' => ['bass'], 'solo' => true], fn (Session $s) => $s->channel('bass')->solo, true],
    'solo-safe' => [['type' => 'set-solo-safe', 'channels' => ['bass'], 'soloSafe' => true], fn (Session $s) => $s->channel('bass')->soloSafe, true],
    'row off' => [['type' => 'set-row', 'channels' => ['cello'], 'on' => false], fn (Session $s) => [$s->channel('cello')->insertsOn, $s->channel('cello')->inserts[0]->on], [false, true]],
    'a reverb in another’s place on a track' => [['type' => 'replace-insert', 'insert' => 'i1', 'processor' => 'hall'], fn (Session $s) => [$s->channel('cello')->inserts[0]->processor, $s->channel('cello')->inserts[0]->mix], ['hall', 0.25]],
    'a reverb for a reverb keeps its mix' => [['type' => 'replace-insert', 'insert' => 'i3', 'processor' => 'hall'], fn (Session $s) => $s->channel('cello')->inserts[2]->mix, 0.3],
    'rename' => [['type' => 'rename-channel', 'channel' => 'cello', 'name' => 'Violoncello'], fn (Session $s) => $s->channel('cello')->name, 'Violoncello'],
    'rename the session' => [['type' => 'rename-session', 'name' => 'Pier'], fn (Session $s) => $s->name, 'Pier'],
    'tempo' => [['type' => 'set-tempo', 'tempo' => 88.5], fn (Session $s) => $s->tempo, 88.5],
    'move a channel' => [['type' => 'move-channel', 'channel' => 'bass', 'to' => 0], fn (Session $s) => array_column($s->channels, 'id'), ['bass', 'cello', 'main']],
    'main stays last' => [['type' => 'move-channel', 'channel' => 'cello', 'to' => 99], fn (Session $s) => array_column($s->channels, 'id'), ['bass', 'cello', 'main']],
    'add a channel with a file' => [['type' => 'add-channel', 'name' => 'Cello', 'file' => ['file' => 'x', 'length' => 96000, 'width' => 'mono']], fn (Session $s) => [array_column($s->channels, 'id'), $s->length, $s->channel('cello-2')->output], [['cello', 'bass', 'cello-2', 'main'], 96000, 'main']],
    'remove channels' => [['type' => 'remove-channels', 'channels' => ['cello']], fn (Session $s) => array_column($s->channels, 'id'), ['bass', 'main']],
    'put a file' => [['type' => 'put-file', 'channel' => 'bass', 'file' => ['file' => 'y', 'length' => 50, 'width' => 'stereo']], fn (Session $s) => [$s->channel('bass')->source->clips[0]->file, $s->channel('bass')->width->value], ['y', 'stereo']],
    'add an insert' => [['type' => 'add-insert', 'channels' => ['cello'], 'processor' => 'echo', 'at' => 1], fn (Session $s) => rowOf($s, 'cello'), ['filter', 'echo', 'compressor', 'reverb']],
    'a new echo on a track is not all wet' => [['type' => 'add-insert', 'channels' => ['bass'], 'processor' => 'echo'], fn (Session $s) => $s->channel('bass')->inserts[1]->mix, 0.25],
    'add to several at once' => [['type' => 'add-insert', 'channels' => ['cello', 'bass', 'main'], 'processor' => 'gain'], fn (Session $s) => [rowOf($s, 'bass'), $s->channel('main')->inserts[1]->id], [['drive', 'gain'], 'i8']],
    'add after the fader' => [['type' => 'add-insert', 'channels' => ['bass'], 'processor' => 'gain', 'row' => 'postInserts'], fn (Session $s) => rowOf($s, 'bass', 'postInserts'), ['gain']],
    'replace keeps mix and state' => [['type' => 'replace-insert', 'insert' => 'i3', 'processor' => 'echo'], fn (Session $s) => [rowOf($s, 'cello'), $s->channel('cello')->inserts[2]->mix], [['filter', 'compressor', 'echo'], 0.3]],
    'replace dry by wet starts as a part' => [['type' => 'replace-insert', 'insert' => 'i4', 'processor' => 'reverb'], fn (Session $s) => $s->channel('bass')->inserts[0]->mix, 0.25],
    'move forwards' => [['type' => 'move-insert', 'insert' => 'i1', 'channel' => 'cello', 'at' => 2], fn (Session $s) => rowOf($s, 'cello'), ['compressor', 'filter', 'reverb']],
    'move backwards' => [['type' => 'move-insert', 'insert' => 'i3', 'channel' => 'cello', 'at' => 0], fn (Session $s) => rowOf($s, 'cello'), ['reverb', 'filter', 'compressor']],
    'move to another channel' => [['type' => 'move-insert', 'insert' => 'i1', 'channel' => 'bass'], fn (Session $s) => [rowOf($s, 'cello'), rowOf($s, 'bass')], [['compressor', 'reverb'], ['drive', 'filter']]],
    'move after the fader' => [['type' => 'move-insert', 'insert' => 'i1', 'channel' => 'cello', 'row' => 'postInserts'], fn (Session $s) => [rowOf($s, 'cello'), rowOf($s, 'cello', 'postInserts')], [['compressor', 'reverb'], ['filter']]],
    'copy to channels' => [['type' => 'copy-inserts', 'inserts' => ['i1', 'i2'], 'channels' => ['bass', 'main']], fn (Session $s) => [rowOf($s, 'bass'), rowOf($s, 'main')], [['drive', 'filter', 'compressor'], ['limiter', 'filter', 'compressor']]],
    'swap in a row' => [['type' => 'swap-inserts', 'insert' => 'i1', 'with' => 'i3'], fn (Session $s) => rowOf($s, 'cello'), ['reverb', 'compressor', 'filter']],
    'swap across channels' => [['type' => 'swap-inserts', 'insert' => 'i1', 'with' => 'i4'], fn (Session $s) => [rowOf($s, 'cello'), rowOf($s, 'bass')], [['drive', 'compressor', 'reverb'], ['filter']]],
    'remove inserts' => [['type' => 'remove-inserts', 'inserts' => ['i1', 'i4']], fn (Session $s) => [rowOf($s, 'cello'), rowOf($s, 'bass')], [['compressor', 'reverb'], []]],
    'bypass several' => [['type' => 'set-insert-on', 'inserts' => ['i1', 'i4'], 'on' => false], fn (Session $s) => [$s->locate('i1')->insert->on, $s->locate('i4')->insert->on, $s->locate('i2')->insert->on], [false, false, true]],
    'mix' => [['type' => 'set-mix', 'insert' => 'i3', 'mix' => 0.6], fn (Session $s) => $s->locate('i3')->insert->mix, 0.6],
    'parameter' => [['type' => 'set-parameter', 'insert' => 'i1', 'parameter' => 'frequency', 'value' => 120], fn (Session $s) => $s->locate('i1')->insert->parameters, ['frequency' => 120.0]],
    'all parameters' => [['type' => 'set-parameters', 'insert' => 'i1', 'parameters' => ['slope' => '24dB'], 'preset' => 'Steep'], fn (Session $s) => $s->locate('i1')->insert->parameters, ['slope' => '24dB']],
]);

it('refuses and says what is allowed', function (array $edit, string $class, string $place, string $says): void {
    try {
        edited(twoTracks(), $edit);
        test()->fail('The edit was made.');
    } catch (Refusal $refusal) {
        expect($refusal)->toBeInstanceOf($class)->and($refusal->location)->toBe($place)->and($refusal->getMessage())->toContain($says);
    }
})->with([
    [['type' => 'paint'], InvalidDocument::class, '/type', 'Found "paint"'],
    [['type' => 'set-fader', 'channels' => ['cello']], InvalidDocument::class, '/', '"gain" is missing'],
    [['type' => 'set-fader', 'channels' => ['cello'], 'gain' => 99], InvalidDocument::class, '/gain', 'from -120 to 24'],
    [['type' => 'set-fader', 'channels' => ['cello'], 'gain' => 0, 'colour' => 1], InvalidDocument::class, '/colour', 'Unknown key'],
    [['type' => 'set-fader', 'channels' => ['attic'], 'gain' => 0], EditRefused::class, 'channel', 'no channel "attic"'],
    [['type' => 'set-fader', 'channels' => [], 'gain' => 0], EditRefused::class, 'selection', 'No channel'],
    [['type' => 'set-parameter', 'insert' => 'i1', 'parameter' => 'warmth', 'value' => 1], InvalidDocument::class, '/parameter', 'no parameter "warmth"'],
    [['type' => 'set-parameter', 'insert' => 'i1', 'parameter' => 'frequency', 'value' => 5], InvalidDocument::class, '/value', 'Found 5; Frequency of Filter must be a number from 20 to 20000 Hz'],
    [['type' => 'set-parameter', 'insert' => 'i99', 'parameter' => 'x', 'value' => 5], EditRefused::class, 'insert', 'no insert "i99"'],
    [['type' => 'remove-channels', 'channels' => ['main']], EditRefused::class, 'main', 'Main is the main'],
    [['type' => 'put-file', 'channel' => 'main', 'file' => ['file' => 'x', 'length' => 1, 'width' => 'mono']], EditRefused::class, 'clips', 'Files go on tracks'],
    [['type' => 'add-insert', 'channels' => ['cello'], 'processor' => 'flux'], InvalidDocument::class, '/processor', '"compressor"'],
]);

it('keeps the relation of faders when one reaches the end', function (): void {
    $session = edited(twoTracks(), ['type' => 'set-fader', 'channels' => ['bass'], 'gain' => 10.0]);
    $moved = edited($session, ['type' => 'move-faders', 'channels' => ['cello', 'bass'], 'by' => 6.0]);
    expect([$moved->channel('cello')->fader, $moved->channel('bass')->fader])->toBe([2.0, 12.0]);
    expect(fn () => edited($moved, ['type' => 'move-faders', 'channels' => ['cello', 'bass'], 'by' => 6.0]))->toThrow(EditRefused::class, 'keep their relation');
});

it('gives the same sound in whatever order unrelated edits are made', function (): void {
    $edits = [
        ['type' => 'set-fader', 'channels' => ['cello'], 'gain' => -4.0],
        ['type' => 'set-parameter', 'insert' => 'i2', 'parameter' => 'threshold', 'value' => -30.0],
        ['type' => 'set-pan', 'channels' => ['bass'], 'pan' => 0.5],
        ['type' => 'set-insert-on', 'inserts' => ['i5'], 'on' => false],
        ['type' => 'set-mix', 'insert' => 'i3', 'mix' => 0.7],
    ];
    $library = new MemoryLibrary(['cello' => [Signal::noise(8000, 1)], 'bass' => [Signal::noise(8000, 2)]]);
    $sound = null;
    mt_srand(3);
    for ($round = 0; $round < 4; ++$round) {
        $session = array_reduce($edits, edited(...), twoTracks());
        $rendered = Mix::render($session, $library, frames: 8000);
        $sound ??= $rendered;
        expect($rendered)->toEqual($sound);
        shuffle($edits);
    }
});

it('does several edits as one, or none of them', function (): void {
    $session = Mix::session([Mix::track('cello'), Mix::track('viola')]);
    $both = edited($session, ['type' => 'several', 'label' => 'Both', 'edits' => [
        ['type' => 'group-channels', 'channels' => ['cello', 'viola'], 'name' => 'Strings'],
        ['type' => 'set-fader', 'channels' => ['strings'], 'gain' => -3.0],
    ]]);
    expect($both->channel('strings')?->fader)->toBe(-3.0);
    expect(fn () => edited($session, ['type' => 'several', 'label' => 'Both', 'edits' => [
        ['type' => 'set-mute', 'channels' => ['cello'], 'mute' => true],
        ['type' => 'set-fader', 'channels' => ['strings'], 'gain' => -3.0],
    ]]))->toThrow(EditRefused::class);
});

it('moves the gains of all clips of a track, as far as the highest can go', function (): void {
    $clip = static fn (string $id, ?float $gain): Clip => new Clip($id, 'a', 0, 0, 10, $gain);
    $session = Mix::session([Mix::track('cello')->withSource(new ClipSource([$clip('k1', 20.0), $clip('k2', null), $clip('k3', -3.0)]))]);
    $gains = static fn (Session $session): array => array_map(static fn (Clip $clip): ?float => $clip->gain, $session->channel('cello')->source->clips);
    expect($gains(edited($session, ['type' => 'move-clip-gains', 'channels' => ['cello'], 'by' => -2.5])))->toBe([17.5, null, -5.5]);
    expect(fn () => edited($session, ['type' => 'move-clip-gains', 'channels' => ['main'], 'by' => -1.0]))->toThrow(EditRefused::class);
});

it('starts a reverb all wet on a return, added or put in another’s place, and part wet in a branch', function (): void {
    $session = edited(Mix::session([Mix::track('cello')]), ['type' => 'add-channel', 'name' => 'Plate', 'kind' => 'return']);
    $added = edited($session, ['type' => 'add-insert', 'channels' => ['plate'], 'processor' => 'reverb']);
    expect($added->channel('plate')->inserts[0]->mix)->toBe(1.0);
    $filtered = edited($session, ['type' => 'add-insert', 'channels' => ['plate'], 'processor' => 'filter']);
    $replaced = edited($filtered, ['type' => 'replace-insert', 'insert' => $filtered->channel('plate')->inserts[0]->id, 'processor' => 'hall']);
    expect($replaced->channel('plate')->inserts[0]->mix)->toBe(1.0);
    $split = edited($filtered, ['type' => 'wrap-in-branch', 'inserts' => [$filtered->channel('plate')->inserts[0]->id]]);
    $branch = $split->channel('plate')->inserts[0]->branches[1];
    $inBranch = edited($split, ['type' => 'replace-insert', 'insert' => $branch->inserts[0]->id, 'processor' => 'hall']);
    expect($inBranch->channel('plate')->inserts[0]->branches[1]->inserts[0]->mix)->toBe(0.25);
});
