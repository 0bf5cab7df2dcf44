<?php

declare(strict_types=1);

use Hafen\Audio\UnreadableAudioFile;
use Hafen\Engine\Compiler;
use Hafen\Headroom\Levels;
use Hafen\Headroom\Rework\Remeasured;
use Hafen\Headroom\Rework\Remeasurement;
use Hafen\Session\Channel\Channel;
use Hafen\Session\Channel\ChannelKind;
use Hafen\Session\Channel\Send;
use Hafen\Session\Channel\TapPoint;
use Hafen\Session\Session;
use Hafen\Survey\FolderStore;
use Hafen\Survey\SurveyStore;
use Hafen\Survey\TimeRange;
use Hafen\Tests\Support\MemoryLibrary;
use Hafen\Tests\Support\Mix;
use Hafen\Tests\Support\RandomMix;
use Hafen\Tests\Support\RandomRouting;
use Hafen\Tests\Support\Signal;

require_once __DIR__.'/../Support/edited.php';

function remeasurement(MemoryLibrary $library, SurveyStore $store): Remeasurement
{
    return new Remeasurement(new Compiler(Mix::processors(), $library), Mix::processors(), $store);
}

function expectLevels(?Levels $levels, Levels $expected, string $what): void
{
    // What is left where feeds are taken out of a sum counts as silence.
    if (($expected->peak ?? -INF) < -240.0) {
        expect($levels?->peak ?? -INF)->toBeLessThan(-240.0, $what);

        return;
    }
    expect($levels?->peak)->toEqualWithDelta($expected->peak, 1e-6, $what)
        ->and($levels?->truePeak)->toEqualWithDelta($expected->truePeak, 1e-6, $what)
        ->and($levels?->loudness)->toEqualWithDelta($expected->loudness, 1e-6, $what);
}

/** @return list<array<string, mixed>> what is done to mixes, one after the other, each from the mix as it was */
function changesOfMixes(): array
{
    return [
        ['type' => 'set-fader', 'channels' => ['t0', 't1'], 'gain' => -9.0],
        ['type' => 'move-faders', 'channels' => ['t0', 't1', 't2'], 'by' => -4.0],
        ['type' => 'set-trim', 'channels' => ['t1', 't2'], 'gain' => -6.0],
        ['type' => 'move-trims', 'channels' => ['t0', 'group'], 'by' => -3.0],
        ['type' => 'set-trim', 'channels' => ['main'], 'gain' => -3.0],
        ['type' => 'set-polarity', 'channels' => ['t1'], 'invert' => true],
        ['type' => 'set-polarity', 'channels' => ['main'], 'invert' => true],
        ['type' => 'move-clip-gains', 'channels' => ['t0', 't1', 't2'], 'by' => -5.0],
        ['type' => 'add-insert', 'channels' => ['main'], 'processor' => 'limiter'],
        ['type' => 'add-insert', 'channels' => ['t1'], 'processor' => 'filter', 'at' => 0],
        ['type' => 'add-insert', 'channels' => ['t0'], 'processor' => 'limiter', 'at' => 0],
        ['type' => 'cut-frequency', 'channel' => 't2', 'frequency' => 300.0, 'depth' => 4.0],
        ['type' => 'set-mute', 'channels' => ['return'], 'mute' => true],
        ['type' => 'set-mute', 'channels' => ['t0'], 'mute' => true],
        ['type' => 'set-pan', 'channels' => ['t1'], 'pan' => 0.5],
        ['type' => 'set-solo', 'channels' => ['t0'], 'solo' => true],
        ['type' => 'set-output', 'channels' => ['t1'], 'output' => 'group'],
        ['type' => 'several', 'label' => 'Group', 'edits' => [
            ['type' => 'group-channels', 'channels' => ['t0', 't1'], 'name' => 'All'],
            ['type' => 'set-fader', 'channels' => ['all'], 'gain' => -6.0],
        ]],
    ];
}

/**
 * @param  array<string, mixed>  $edit
 * @return ?Session null where the mix has not what is edited
 */
function editedWhereItCan(Session $session, array $edit): ?Session
{
    try {
        return edited($session, $edit);
    } catch (Hafen\Edit\EditRefused) {
        return null;
    }
}

// The survey measures the same in another way: channel by channel, with every tap. It is held against files and ebur128 elsewhere.
it('finds what the survey finds of edits, over a passage and over all, from recordings and without', function (int $seed): void {
    [$session, $library] = RandomMix::make($seed);
    $tried = 0;
    $range = $seed % 2 === 0 ? new TimeRange(9000, 21000, 0.1) : TimeRange::all($session);
    $store = FolderStore::temporary();
    $known = Mix::survey($session, $library, $store, $range);
    $recorded = remeasurement($library, $store);
    $bare = remeasurement($library, FolderStore::temporary());
    expect($recorded->isRecorded($session, $range))->toBeTrue()->and($bare->isRecorded($session, $range))->toBeFalse();
    foreach (changesOfMixes() as $i => $edit) {
        $after = editedWhereItCan($session, $edit);
        if ($after === null) {
            continue;
        }
        ++$tried;
        $what = $seed.': '.json_encode($edit);
        $survey = Mix::survey($after, $library, null, $range);
        $measured = $recorded->of($session, $after, $range, true);
        assert($measured !== null);
        expectLevels($measured->levels, Levels::of($survey), $what);
        if ($i % 4 === $seed % 4) {
            expectLevels($bare->of($session, $after, $range, false)?->levels, Levels::of($survey), "{$what} without recordings");
        }
        $compared = 0;
        foreach ($survey->taps as $tap => $reading) {
            $level = $measured->rmsLevel((string) $tap, $known->taps);
            if ($level !== null) {
                ++$compared;
                expect($level)->toEqualWithDelta($reading->rmsLevel(), 1e-6, "{$what} {$tap}");
            }
        }
        expect($compared)->toBeGreaterThan(count($session->channels), $what);
    }
    expect($tried)->toBeGreaterThan(12);
})->with(range(1, 8));

/** @return array{Session, MemoryLibrary} four tracks, the first two through a compressor, a reverb on sends, and a limiter on the main where it is asked for */
function mixToRework(bool $isLimited): array
{
    $insert = static fn (int $i): array => $i < 2 ? [Mix::insert("i{$i}", 'compressor', ['threshold' => -20.0])] : [Mix::insert("i{$i}", 'parametric-eq', ['bell-1-gain' => 3.0])];
    $tracks = array_map(static fn (int $i): Channel => Mix::track("t{$i}", $insert($i), length: 9600)->withSends([new Send("n{$i}", 'room', -9.0, TapPoint::PostFader)]), range(0, 3));

    return [
        Mix::session([...$tracks, Mix::bus('room', ChannelKind::Return, [Mix::insert('r', 'reverb')])], $isLimited ? [Mix::insert('l', 'limiter')] : [], 9600),
        new MemoryLibrary(['t0' => [Signal::noise(9600, 1)], 't1' => [Signal::noise(9600, 2)], 't2' => [Signal::noise(9600, 3)], 't3' => [Signal::noise(9600, 4)]]),
    ];
}

it('works only what is not known from recordings', function (array $edit, bool $isLimited, array $worked, array $replayed, array $sums): void {
    [$session, $library] = mixToRework($isLimited);
    $store = FolderStore::temporary();
    Mix::survey($session, $library, $store);
    $after = edited($session, $edit);
    $rework = remeasurement($library, $store)->rework($session, $after, TimeRange::all($session), true);
    $actual = array_keys($rework->replayed);
    sort($actual);
    expect($rework->worked)->toBe($worked)
        ->and($actual)->toBe($replayed)
        ->and(array_map(static fn ($sum): array => [count($sum->removed), count($sum->added)], $rework->sums))->toBe($sums);
    // Without the files nothing that plays clips could be worked.
    $plays = array_intersect($worked, ['t0', 't1', 't2', 't3']);
    $measure = static fn (): ?Remeasured => remeasurement($plays === [] ? new MemoryLibrary([]) : $library, $store)->of($session, $after, TimeRange::all($session), true);
    expectLevels($measure()?->levels, Levels::of(Mix::survey($after, $library)), (string) json_encode($edit));
})->with([
    'all faders' => [['type' => 'move-faders', 'channels' => ['t0', 't1', 't2', 't3'], 'by' => -4.0], false, [], ['main'], []],
    'all faders into a limiter' => [['type' => 'move-faders', 'channels' => ['t0', 't1', 't2', 't3'], 'by' => -4.0], true, ['main'], [], ['main' => [0, 0]]],
    'the trim of the main' => [['type' => 'move-trims', 'channels' => ['main'], 'by' => -4.0], false, [], ['main'], []],
    'one fader' => [['type' => 'move-faders', 'channels' => ['t0'], 'by' => -4.0], true, ['room', 'main'], ['t0'], ['main' => [2, 2], 'room' => [1, 1]]],
    'one filter' => [['type' => 'add-insert', 'channels' => ['t3'], 'processor' => 'filter'], false, ['t3', 'room', 'main'], [], ['main' => [2, 2], 'room' => [1, 1]]],
    'clips into compressors' => [['type' => 'move-clip-gains', 'channels' => ['t0', 't1', 't2', 't3'], 'by' => -4.0], false, ['t0', 't1', 'room', 'main'], ['t2', 't3'], []],
    'a group above all' => [['type' => 'several', 'label' => 'Group', 'edits' => [['type' => 'group-channels', 'channels' => ['t0', 't1', 't2', 't3', 'room'], 'name' => 'All'], ['type' => 'set-fader', 'channels' => ['all'], 'gain' => -6.0]]], true, ['main'], [], ['main' => [0, 0]]],
    'another limiter' => [['type' => 'add-insert', 'channels' => ['main'], 'processor' => 'limiter'], false, ['main'], [], ['main' => [0, 0]]],
]);

it('leaves nothing behind when it is stopped, and asks for files only where it has to', function (): void {
    [$session, $library] = RandomMix::make(3);
    $range = new TimeRange(9000, 21000, 0.1);
    $store = FolderStore::temporary();
    expect(remeasurement($library, $store)->record($session, $range, static fn (int $done): bool => $done < 4096))->toBeNull()
        ->and(remeasurement($library, $store)->isRecorded($session, $range))->toBeFalse();
    // Stopped, it has recorded nothing: without the files nothing can be worked.
    $gone = new MemoryLibrary([]);
    expect(fn () => remeasurement($gone, $store)->of($session, $session, $range, false))->toThrow(UnreadableAudioFile::class);
    $levels = remeasurement($library, $store)->record($session, $range)?->levels;
    expect($levels?->peak)->not->toBeNull();
    expect(remeasurement($gone, $store)->of($session, $session, $range, false)?->levels)->toEqual($levels)
        ->and(fn () => remeasurement($gone, $store)->of($session, edited($session, ['type' => 'add-insert', 'channels' => ['t0'], 'processor' => 'limiter']), $range, false))->toThrow(UnreadableAudioFile::class);
});

it('measures a main that is replayed where its own inserts make it late', function (): void {
    [$session, $library] = mixToRework(true);
    $store = FolderStore::temporary();
    Mix::survey($session, $library, $store, $range = new TimeRange(2000, 4000));
    $after = edited($session, ['type' => 'set-fader', 'channels' => ['main'], 'gain' => -6.0]);
    expectLevels(remeasurement($library, $store)->of($session, $after, $range, false)?->levels, Levels::of(Mix::survey($after, $library, null, $range)), 'late');
});

it('takes nothing out of a sum that is so loud that a rest would stay', function (): void {
    [$mix, $library] = mixToRework(false);
    $session = edited($mix, ['type' => 'several', 'label' => 'Wild', 'edits' => array_map(
        static fn (int $i): array => ['type' => 'add-insert', 'channels' => ['t3'], 'processor' => 'gain', 'parameters' => ['gain' => 24.0], 'at' => 0],
        range(0, 11),
    )]);
    $store = FolderStore::temporary();
    expect(Mix::survey($session, $library, $store)->peak())->toBeGreaterThan(200.0);
    $after = edited($session, ['type' => 'set-mute', 'channels' => ['t3'], 'mute' => true]);
    $measured = remeasurement($library, $store)->of($session, $after, TimeRange::all($session), true);
    expectLevels($measured?->levels, Levels::of(Mix::survey($after, $library)), 'wild');
});

// Cues, taps as sources, splits, what listens to what, mono buses, latencies of every size, solos and mutes.
it('finds what the survey finds of edits to any routing', function (int $seed): void {
    [$session, $library] = RandomRouting::make(700 + $seed, 14, 4800);
    $store = FolderStore::temporary();
    $known = Mix::survey($session, $library, $store);
    $ids = array_map(static fn (Channel $channel): string => $channel->id, $session->channels);
    $some = static fn (): array => array_values(array_filter($ids, static fn (): bool => mt_rand(0, 2) > 0)) ?: [$ids[0]];
    $cues = array_values(array_filter($session->channels, static fn (Channel $channel): bool => $channel->kind === ChannelKind::Cue));
    foreach (range(1, 12) as $try) {
        mt_srand(1000 * $seed + $try);
        $edit = [
            fn () => ['type' => 'move-faders', 'channels' => $ids, 'by' => -3.0],
            fn () => ['type' => 'move-faders', 'channels' => $some(), 'by' => -6.0],
            fn () => ['type' => 'move-trims', 'channels' => $some(), 'by' => -4.0],
            fn () => ['type' => 'move-clip-gains', 'channels' => $some(), 'by' => 3.0],
            fn () => ['type' => 'set-pan', 'channels' => [$ids[array_rand($ids)]], 'pan' => 0.3],
            fn () => ['type' => 'set-mute', 'channels' => [$ids[array_rand($ids)]], 'mute' => mt_rand(0, 1) === 0],
            fn () => ['type' => 'set-polarity', 'channels' => $some(), 'invert' => true],
            fn () => ['type' => 'add-insert', 'channels' => [$ids[array_rand($ids)]], 'processor' => 'limiter', 'parameters' => ['look-ahead' => '5ms']],
            fn () => ['type' => 'add-insert', 'channels' => [$ids[array_rand($ids)]], 'processor' => 'filter'],
            fn () => ['type' => 'set-fader', 'channels' => [$ids[array_rand($ids)]], 'gain' => null],
            fn () => ['type' => 'set-performer-gain', 'cue' => $cues[0]->id ?? 'none', 'part' => 'band', 'gain' => -5.0],
            fn () => ['type' => 'set-performer-gain', 'cue' => $cues[0]->id ?? 'none', 'part' => 'band', 'gain' => null],
        ][$try - 1]();
        $after = editedWhereItCan($session, $edit);
        if ($after === null) {
            continue;
        }
        $what = "{$seed}: ".json_encode($edit);
        $survey = Mix::survey($after, $library);
        $measured = remeasurement($library, $store)->of($session, $after, TimeRange::all($session), true);
        assert($measured !== null);
        expectLevels($measured->levels, Levels::of($survey), $what);
        foreach ($survey->taps as $tap => $reading) {
            $level = $measured->rmsLevel((string) $tap, $known->taps);
            if ($level !== null && $level > -200.0) {
                expect($level)->toEqualWithDelta($reading->rmsLevel(), 1e-6, "{$what} {$tap}");
            }
        }
    }
})->with([...range(1, 12), 50, 61, 79]);

it('takes channels whose ids are numbers for what they are', function (): void {
    $library = new MemoryLibrary(['808' => [Signal::noise(9600, 1)], '7' => [Signal::noise(9600, 2)], '3' => [Signal::noise(9600, 3)], '4' => [Signal::noise(9600, 4)]]);
    $session = Mix::session(array_map(static fn (string $id): Channel => Mix::track($id, [Mix::insert("i{$id}", 'compressor')], length: 9600), ['808', '7', '3', '4']), [Mix::insert('l', 'limiter')], 9600);
    $store = FolderStore::temporary();
    $known = Mix::survey($session, $library, $store);
    foreach ([['type' => 'move-faders', 'channels' => ['7'], 'by' => -4.0], ['type' => 'move-trims', 'channels' => ['808', '3'], 'by' => -4.0]] as $edit) {
        $after = edited($session, $edit);
        $measured = remeasurement($library, $store)->of($session, $after, TimeRange::all($session), true);
        $survey = Mix::survey($after, $library);
        expectLevels($measured?->levels, Levels::of($survey), (string) json_encode($edit));
        expect($measured?->rmsLevel('808:insert:i808', $known->taps))->toEqualWithDelta($survey->taps['808:insert:i808']->rmsLevel(), 1e-6);
    }
});
