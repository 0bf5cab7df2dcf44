<?php

declare(strict_types=1);

use Hafen\Pilot\Advice;
use Hafen\Pilot\Pilot;
use Hafen\Pilot\Severity;
use Hafen\Session\Channel\Channel;
use Hafen\Session\Channel\ChannelKind;
use Hafen\Session\Channel\Send;
use Hafen\Session\Channel\TapPoint;
use Hafen\Session\Channel\Width;
use Hafen\Session\Insert\Branch;
use Hafen\Session\Session;
use Hafen\Session\Source\TapSource;
use Hafen\Tests\Support\MemoryLibrary;
use Hafen\Tests\Support\Mix;

require_once __DIR__.'/../Support/edited.php';

/** A session the Pilot has nothing to say about. */
function quietSession(): Session
{
    return Mix::session([
        Mix::track('cello', [Mix::insert('i1', 'reverb', mix: 0.25)])->withSends([new Send('n1', 'echo', -12.0), new Send('n2', 'cue', -3.0, TapPoint::PreFader)]),
        Mix::track('drum', [Mix::split('s1', [new Branch('b1', 'A', -20 * log10(2)), new Branch('b2', 'B', -20 * log10(2))]), Mix::insert('i2', 'limiter')])->withOutput('group'),
        Mix::track('choir')->withOutput('group'),
        Mix::bus('group', ChannelKind::Group),
        Mix::bus('echo', ChannelKind::Return, [Mix::insert('i3', 'echo')]),
        Mix::bus('cue', ChannelKind::Cue),
    ], [Mix::insert('i4', 'compressor'), Mix::insert('i5', 'limiter')]);
}

/** @return list<Advice> */
function pilotNotes(Session $session): array
{
    return Pilot::standard()->advice($session, Mix::processors());
}

it('has nothing to say where there is nothing', function (): void {
    expect(array_map(static fn (Advice $note): string => $note->text, pilotNotes(quietSession())))->toBe([]);
});

it('notes one thing, says it in a sentence, mends it, and stays quiet at what is near', function (array $edit, string $id, Severity $severity, string $says, ?array $near): void {
    $notes = pilotNotes(edited(quietSession(), $edit));
    expect(array_map(static fn (Advice $note): string => $note->id(), $notes))->toBe([$id])
        ->and($notes[0]->severity)->toBe($severity)
        ->and($notes[0]->text)->toContain($says)->toEndWith('.');
    if ($notes[0]->fix !== null) {
        expect(pilotNotes(edited(edited(quietSession(), $edit), $notes[0]->fix->edit)))->toBe([]);
    }
    if ($near !== null) {
        expect(pilotNotes(edited(quietSession(), $near)))->toBe([]);
    }
})->with([
    'a return not all wet' => [['type' => 'set-mix', 'insert' => 'i3', 'mix' => 0.4], 'return-not-wet:echo:i3', Severity::Advice, 'Echo is at 40 % wet on a return', ['type' => 'add-insert', 'channels' => ['echo'], 'processor' => 'drive']],
    'a track all wet' => [['type' => 'set-mix', 'insert' => 'i1', 'mix' => 1], 'all-wet-on-track:cello:i1', Severity::Advice, 'Reverb on Cello is all wet', ['type' => 'set-mix', 'insert' => 'i1', 'mix' => 0.9]],
    'an effect send before the fader' => [['type' => 'set-send-tap', 'sends' => ['n1'], 'tap' => 'pre-fader'], 'effect-send-before-fader:cello:n1', Severity::Advice, 'Cello is sent to Echo before its fader', ['type' => 'add-send', 'channels' => ['drum'], 'to' => 'group', 'tap' => 'source']],
    'a cue send after the fader' => [['type' => 'set-send-tap', 'sends' => ['n2'], 'tap' => 'post-fader'], 'cue-send-after-fader:cello:n2', Severity::Advice, 'after its fader', ['type' => 'set-send-tap', 'sends' => ['n2'], 'tap' => 'source']],
    'a return that is not solo-safe' => [['type' => 'set-solo-safe', 'channels' => ['echo'], 'soloSafe' => false], 'return-not-solo-safe:echo', Severity::Advice, 'Echo is not solo-safe', ['type' => 'set-solo-safe', 'channels' => ['cello'], 'soloSafe' => false]],
    'something after the limiter' => [['type' => 'move-insert', 'insert' => 'i4', 'channel' => 'main'], 'limiter-not-last:main:i5', Severity::Severe, 'Compressor comes after the limiter', ['type' => 'move-insert', 'insert' => 'i2', 'channel' => 'drum', 'at' => 0]],
    'a limiter after the fader' => [['type' => 'move-insert', 'insert' => 'i5', 'channel' => 'main', 'row' => 'postInserts'], 'limiter-not-last:main:i5', Severity::Severe, 'stands after the fader', ['type' => 'set-insert-on', 'inserts' => ['i5'], 'on' => false]],
    'the fader up after the limiter' => [['type' => 'set-fader', 'channels' => ['main'], 'gain' => 2], 'limiter-not-last:main:i5', Severity::Severe, '+2.0 dB after the limiter', ['type' => 'set-fader', 'channels' => ['main'], 'gain' => -2]],
    'equal branches' => [['type' => 'set-branch-gain', 'branches' => ['b1', 'b2'], 'gain' => 0], 'equal-branches:drum:s1', Severity::Advice, 'Equal branches of Drum add 6.02 dB', ['type' => 'set-branch-pan', 'branches' => ['b1'], 'pan' => 0.3]],
    'a path out of time' => [['type' => 'set-aligned', 'channels' => ['drum'], 'aligned' => false], 'path-out-of-time:drum', Severity::Severe, 'out of time', ['type' => 'set-aligned', 'channels' => ['cello'], 'aligned' => true]],
    'no way to the main' => [['type' => 'set-output', 'channels' => ['drum'], 'output' => 'none'], 'no-way-to-main:drum', Severity::Severe, 'nobody hears it', ['type' => 'set-output', 'channels' => ['cello'], 'output' => 'none']],
    'a bus without anything' => [['type' => 'add-channel', 'kind' => 'group', 'name' => 'Spare'], 'nothing-arrives:spare', Severity::Information, 'Nothing comes to Spare', ['type' => 'add-channel', 'name' => 'Spare']],
    'the same ambience twice' => [['type' => 'replace-insert', 'insert' => 'i3', 'processor' => 'reverb'], 'ambience-twice:cello:i1', Severity::Information, 'gets more of it from Echo', ['type' => 'replace-insert', 'insert' => 'i1', 'processor' => 'drive']],
    'muted and in a cue' => [['type' => 'set-mute', 'channels' => ['cello'], 'mute' => true], 'muted-in-cue:cello:n2', Severity::Information, 'muted and still heard in Cue', ['type' => 'set-mute', 'channels' => ['drum'], 'mute' => true]],
]);

it('looks a large session over, whatever it holds, and puts the severe first', function (): void {
    foreach (range(1, 20) as $seed) {
        [$session] = Hafen\Tests\Support\RandomRouting::make($seed);
        $notes = pilotNotes($session);
        $ranks = array_map(static fn (Advice $note): int => $note->severity->rank(), $notes);
        $sorted = $ranks;
        sort($sorted);
        expect($ranks)->toBe($sorted)
            ->and(count(array_unique(array_map(static fn (Advice $note): string => $note->id(), $notes))))->toBe(count($notes));
    }
});

it('gives mends the edit codec takes, each of which takes its note away', function (): void {
    $fixed = 0;
    foreach (range(1, 20) as $seed) {
        [$session] = Hafen\Tests\Support\RandomRouting::make($seed, 20);
        foreach (pilotNotes($session) as $note) {
            if ($note->fix !== null) {
                $ids = array_map(static fn (Advice $left): string => $left->id(), pilotNotes(edited($session, $note->fix->edit)));
                expect($ids)->not->toContain($note->id());
                ++$fixed;
            }
        }
    }
    expect($fixed)->toBeGreaterThan(20);
});

/**
 * @param  array<string, list<list<float>>>  $files
 * @return list<Advice> with what a survey tells
 */
function surveyedNotes(Session $session, array $files): array
{
    return Pilot::standard()->advice($session, Mix::processors(), Mix::survey($session, new MemoryLibrary($files)));
}

/** A tone that fades, so that a channel sounds and nothing is clipped. @return list<float> */
function fadingTone(float $height, float $offset = 0.0, float $phase = 0.0): array
{
    return array_map(static fn (int $i): float => $offset + $height * sin($i / 25 + $phase) * exp(-$i / 8000), range(0, 19199));
}

it('notes what only the sound tells, mends it, and stays quiet at what is near', function (Session $session, array $files, string $id, Severity $severity, string $says, Session $near, array $nearFiles): void {
    $notes = surveyedNotes($session, $files);
    expect(array_map(static fn (Advice $note): string => $note->id(), $notes))->toBe([$id])
        ->and($notes[0]->severity)->toBe($severity)
        ->and($notes[0]->text)->toContain($says)->toEndWith('.');
    if ($notes[0]->fix !== null) {
        $fixed = array_map(static fn (Advice $note): string => $note->id(), surveyedNotes(edited($session, $notes[0]->fix->edit), $files));
        expect($fixed)->not->toContain($id);
    }
    expect(array_map(static fn (Advice $note): string => $note->id(), surveyedNotes($near, $nearFiles)))->toBe([])
        ->and(array_map(static fn (Advice $note): string => $note->id(), pilotNotes($session)))->not->toContain($id);
})->with(function (): array {
    $track = static fn (string $id, array $inserts = [], Width $width = Width::Stereo): Channel => Mix::track($id, $inserts, $width, 19200);
    $session = static fn (Channel ...$channels): Session => Mix::session(array_values($channels), length: 19200);
    $loud = fadingTone(1.3);
    $square = array_map(static fn (float $x): float => max(-1.0, min(1.0, 2.0 * $x)), fadingTone(0.9));

    return [
        'clips at the output' => [$session($track('a')), ['a' => [$loud]], 'clips-at-output:main', Severity::Severe, 'Main clips at its output', $session($track('a')), ['a' => [fadingTone(0.95)]]],
        'over into a drive' => [
            $session($track('a', [Mix::insert('i1', 'drive')])->withFader(-12.0)), ['a' => [$loud]], 'over-into-level-dependent:a:i1', Severity::Advice, 'Drive on A is fed up to 2.2 dB above full scale',
            $session($track('a', [Mix::insert('i1', 'limiter')])->withFader(-12.0)), ['a' => [$loud]],
        ],
        'a pair opposed' => [
            $session($track('mic_l'), $track('mic_r')), ['mic_l' => [fadingTone(0.4)], 'mic_r' => [fadingTone(-0.3, phase: 0.4)]], 'against-its-pair:mic_r', Severity::Severe, "correlation \u{2212}0.9",
            $session($track('mic_l'), $track('mic_r')), ['mic_l' => [fadingTone(0.4)], 'mic_r' => [fadingTone(0.3, phase: 1.4)]],
        ],
        'sides opposed' => [$session($track('a')), ['a' => [fadingTone(0.4), fadingTone(-0.4)]], 'against-its-pair:a', Severity::Advice, 'The sides of A', $session($track('a')), ['a' => [fadingTone(0.4), fadingTone(0.4, phase: 1.6)]]],
        'a constant offset' => [$session($track('a')), ['a' => [fadingTone(0.5, 0.02)]], 'constant-offset:a', Severity::Advice, 'constant offset of', $session($track('a')), ['a' => [fadingTone(0.5, 0.0005)]]],
        'a clipped recording' => [$session($track('a')), ['a' => [$square]], 'clipped-file:a', Severity::Advice, 'The recording of A is clipped in', $session($track('a')), ['a' => [fadingTone(0.9)]]],
        'silent and at work' => [
            $session($track('a'), $track('b', [Mix::insert('i1', 'reverb', mix: 0.3)])), ['a' => [fadingTone(0.4)], 'b' => [array_fill(0, 19200, 0.0)]], 'silent-at-work:b', Severity::Information, 'B is silent from start to end',
            $session($track('a'), $track('b', [Mix::insert('i1', 'reverb', mix: 0.3)])), ['a' => [fadingTone(0.4)], 'b' => [fadingTone(0.0001)]],
        ],
    ];
});

it('notes a level that counts twice when it is printed', function (): void {
    $printed = static fn (float $fader, TapPoint $tap): array => array_map(static fn (Advice $note): string => $note->id(), pilotNotes(Mix::session([
        Mix::track('cello')->withFader(-7.0),
        Mix::track('print')->withSource(new TapSource('cello', $tap))->withFader($fader),
    ])));
    expect($printed(-7.0, TapPoint::PostFader))->toBe(['level-twice:print'])
        ->and($printed(-6.0, TapPoint::PostFader))->toBe([])
        ->and($printed(-7.0, TapPoint::PreFader))->toBe([]);
});

it('notes a fade in front of a limiter, not one behind it', function (): void {
    $fade = ['type' => 'fade', 'channels' => ['main'], 'direction' => 'out', 'from' => 10, 'to' => 48000];
    $after = ['type' => 'move-insert', 'insert' => 'i5', 'channel' => 'main', 'row' => 'postInserts'];
    $ids = static fn (Session $session): array => array_map(static fn (Advice $note): string => $note->id(), pilotNotes($session));
    expect($ids(edited(quietSession(), $fade)))->toBe([])
        ->and($ids(edited(edited(quietSession(), $after), $fade)))->toContain('fade-into-limiter:main:i5');
    $trim = edited(quietSession(), ['type' => 'add-insert', 'channels' => ['main'], 'processor' => 'gain', 'at' => 0]);
    $lane = static fn (float $to): array => ['type' => 'set-automation', 'channel' => 'main', 'target' => 'parameter:'.$trim->main()->inserts[0]->id().':gain', 'points' => [['at' => 0, 'value' => 0], ['at' => 9, 'value' => $to]]];
    expect($ids(edited($trim, $lane(-60.0))))->toContain('fade-into-limiter:main:'.$trim->main()->inserts[0]->id())
        ->and($ids(edited($trim, $lane(0.0))))->toBe([]);
});

it('offers another order where an effect works against another', function (array $row, ?string $note, array $better): void {
    $session = Mix::session([Mix::track('guitar', array_map(static fn (string $processor, int $i) => Mix::insert("i{$i}", $processor), $row, array_keys($row)))]);
    $found = array_values(array_filter(pilotNotes($session), static fn (Advice $one): bool => in_array($one->check, ['ambience-into-drive', 'pitch-correction-too-late', 'gate-too-late'], true)));
    expect(array_map(static fn (Advice $one): string => $one->id(), $found))->toBe($note === null ? [] : [$note]);
    if ($note !== null) {
        $fixed = edited($session, $found[0]->fix->edit);
        expect(array_map(static fn ($insert): string => $insert->processor, $fixed->channel('guitar')->inserts))->toBe($better);
    }
})->with([
    [['hall', 'drive', 'amplifier'], 'ambience-into-drive:guitar:i0', ['drive', 'amplifier', 'hall']],
    [['drive', 'hall'], null, []],
    [['compressor', 'echo', 'pitch-correction'], 'pitch-correction-too-late:guitar:i2', ['compressor', 'pitch-correction', 'echo']],
    [['pitch-correction', 'echo'], null, []],
    [['parametric-eq', 'compressor', 'gate'], 'gate-too-late:guitar:i2', ['parametric-eq', 'gate', 'compressor']],
    [['gate', 'compressor'], null, []],
]);

it('notes a drive turned up far in front of one that is not', function (array $row, array $found): void {
    $session = Mix::session([Mix::track('guitar', array_map(static fn (array $insert, int $i) => Mix::insert("i{$i}", $insert[0], isset($insert[1]) ? ['drive' => $insert[1]] : [], on: $insert[2] ?? true), $row, array_keys($row)))]);
    $notes = array_values(array_filter(pilotNotes($session), static fn (Advice $note): bool => $note->check === 'high-gain-first'));
    expect(array_map(static fn (Advice $note): ?string => $note->part, $notes))->toBe($found);
    foreach ($notes as $note) {
        expect(array_filter(pilotNotes(edited($session, $note->fix->edit)), static fn (Advice $one): bool => $one->check === 'high-gain-first'))->toBe([]);
    }
})->with([
    'hot first' => [[['drive', 20.0], ['tube-stage', 6.0]], ['i0']],
    'by its default' => [[['distortion'], ['drive', 2.0]], ['i0']],
    'rising' => [[['drive', 6.0], ['distortion', 24.0]], []],
    'about the same' => [[['drive', 12.0], ['drive', 6.0]], []],
    'one of them off' => [[['drive', 20.0, false], ['tube-stage', 6.0]], []],
    'something between' => [[['drive', 20.0], ['parametric-eq'], ['tube-stage', 6.0]], ['i0']],
]);

it('notes an effect whose recording is not there', function (array $parameters, bool $on, array $texts): void {
    $session = Mix::session([Mix::track('voice', [Mix::insert('i1', 'convolution', $parameters, 0.3, $on)])]);
    $recordings = new Hafen\Engine\LibraryAudioFiles(new MemoryLibrary(['clap' => [[1.0]], 'voice' => [[0.0]]]));
    $notes = Pilot::standard()->advice($session, Mix::processors(), null, $recordings);
    expect(array_map(static fn (Advice $note): string => $note->text, $notes))->toBe($texts)
        ->and(pilotNotes($session))->toBe([]);
    foreach ($notes as $note) {
        expect(Pilot::standard()->advice(edited($session, $note->fix->edit), Mix::processors(), null, $recordings))->toBe([]);
    }
})->with([
    'gone' => [['response' => 'own', 'recording' => 'knock'], true, ['Convolution reverb on Voice cannot find its recording: the sound goes through as it is. Choose it again.']],
    'none chosen' => [['response' => 'own'], true, ['Convolution reverb on Voice is to use a recording of your own, and none is chosen: the sound goes through as it is.']],
    'there' => [['response' => 'own', 'recording' => 'clap'], true, []],
    'not in use' => [['recording' => 'knock'], true, []],
    'bypassed' => [['response' => 'own', 'recording' => 'knock'], false, []],
]);

it('notes a moving sound into two drives, not into one', function (): void {
    $ids = static fn (string ...$row): array => array_map(static fn (Advice $note): string => $note->id(), pilotNotes(Mix::session([
        Mix::track('guitar', array_map(static fn (string $processor, int $i) => Mix::insert("i{$i}", $processor), $row, array_keys($row))),
    ])));
    expect($ids('chorus', 'drive', 'drive'))->toBe(['drives-after-movement:guitar:i0'])
        ->and($ids('chorus', 'drive'))->toBe([])
        ->and($ids('drive', 'chorus', 'drive'))->toBe([]);
    $session = Mix::session([Mix::track('guitar', [Mix::insert('i0', 'chorus'), Mix::insert('i1', 'drive'), Mix::insert('i2', 'drive')])]);
    expect(pilotNotes(edited($session, pilotNotes($session)[0]->fix->edit)))->toBe([]);
});

it('notes a print that is heard, or counts, twice', function (string $tap, array $edits, array $ids): void {
    $session = edited(quietSession(), ['type' => 'put-prints', 'prints' => [[
        'file' => ['file' => 'print', 'length' => 48000, 'width' => 'mono'], 'from' => ['revision' => 1, 'channel' => 'choir', 'tap' => $tap], 'name' => 'Choir printed',
    ]], 'inPlace' => false, 'after' => 'keep']);
    foreach ($edits as $edit) {
        $session = edited($session, $edit);
    }
    $notes = pilotNotes($session);
    expect(array_map(static fn (Advice $note): string => $note->check, $notes))->toBe($ids);
    foreach ($notes as $note) {
        $left = array_map(static fn (Advice $other): string => $other->check, pilotNotes(edited($session, $note->fix->edit)));
        expect($left)->not->toContain($note->check);
    }
})->with([
    'beside its source' => ['pre-fader', [], ['heard-twice']],
    'with a source that is muted' => ['pre-fader', [['type' => 'set-mute', 'channels' => ['choir'], 'mute' => true]], []],
    'with a source that is off' => ['pre-fader', [['type' => 'set-off', 'channels' => ['choir'], 'off' => true]], []],
    'a level twice' => ['post-fader', [['type' => 'set-mute', 'channels' => ['choir'], 'mute' => true], ['type' => 'set-fader', 'channels' => ['choir', 'choir-printed'], 'gain' => -6.0]], ['level-printed-twice']],
    'through the main twice' => ['main', [['type' => 'set-mute', 'channels' => ['choir'], 'mute' => true], ['type' => 'set-output', 'channels' => ['choir-printed'], 'output' => 'main']], ['main-twice']],
]);

it('notes those of several in a print that are still heard beside it', function (): void {
    $session = edited(quietSession(), ['type' => 'put-prints', 'prints' => [[
        'file' => ['file' => 'print', 'length' => 48000, 'width' => 'mono'], 'from' => ['revision' => 1, 'channel' => 'choir', 'tap' => 'post-fader', 'with' => ['drum']], 'name' => 'Both',
    ]], 'inPlace' => false, 'after' => 'mute']);
    expect($session->channel('both')?->fader)->toBe(0.0)->and(pilotNotes($session))->toBe([]);
    $again = edited($session, ['type' => 'set-mute', 'channels' => ['drum'], 'mute' => false]);
    $notes = pilotNotes($again);
    expect(array_map(static fn (Advice $note): string => $note->text, $notes))->toBe(['Drum and the print Both are both heard.'])
        ->and(pilotNotes(edited($again, $notes[0]->fix->edit)))->toBe([]);
});

it('notes a freeze that is stale, and nothing of what is switched off', function (): void {
    $hash = str_repeat('0', 32);
    $session = quietSession();
    $choir = $session->channel('choir') ?? $session->main();
    $frozen = $session->withChannel($choir->withFrozen(new Hafen\Session\Channel\Frozen('x', $hash)));
    expect(array_map(static fn (Advice $note): string => $note->id(), pilotNotes($frozen)))->toBe(['freeze-stale:choir'])
        ->and(pilotNotes(edited($frozen, ['type' => 'unfreeze', 'channels' => ['choir']])))->toBe([])
        ->and(pilotNotes($frozen->withChannel($choir->withFrozen(new Hafen\Session\Channel\Frozen('x', $hash))->withOff(true))))->toBe([]);
});
