<?php

declare(strict_types=1);

use Hafen\Engine\InsertRunner;
use Hafen\Processor\ProcessorCatalogue;
use Hafen\Session\Channel\ChannelKind;
use Hafen\Session\Channel\Send;
use Hafen\Session\Channel\TapPoint;
use Hafen\Session\Channel\Width;
use Hafen\Session\Insert\Branch;
use Hafen\Session\Insert\SplitBy;
use Hafen\Session\Session;
use Hafen\Session\Source\Clip;
use Hafen\Session\Source\ClipSource;
use Hafen\Session\Source\TapSource;
use Hafen\Tests\Support\MemoryLibrary;
use Hafen\Tests\Support\Mix;
use Hafen\Tests\Support\Signal;

require_once __DIR__.'/../Support/edited.php';

/*
 * Where no clip plays, inserts rest. The same session with clips of zeros in the gaps never rests: it has to sound the same.
 */

/** Where clips begin, 4,800 samples each: close to each other, and far enough apart that everything has rung out. */
const CLIPS_AT = [0, 5000, 12_000, 215_000, 220_000];

const CLIPS_END = 228_000;

function clipsWithGaps(bool $zeros): ClipSource
{
    $clips = array_map(static fn (int $at, int $i): Clip => new Clip("k{$i}", 'burst', $at, 0, 4800), CLIPS_AT, array_keys(CLIPS_AT));

    return new ClipSource($zeros ? [...$clips, new Clip('zeros', 'zeros', 0, 0, CLIPS_END)] : $clips);
}

function burstLibrary(Width $width): MemoryLibrary
{
    $files = $width === Width::Mono ? [Signal::noise(4800, 21, 0.4)] : [Signal::noise(4800, 21, 0.4), Signal::noise(4800, 22, 0.4)];

    return new MemoryLibrary(['burst' => $files, 'zeros' => array_map(static fn (): array => array_fill(0, CLIPS_END, 0.0), $files)]);
}

/** @param  callable(bool): Session  $make  with clips of zeros or gaps */
function restsUnheard(callable $make, MemoryLibrary $library): void
{
    [$resting, $working] = [Mix::engine($make(false), $library), Mix::engine($make(true), $library)];
    $resting->start(0);
    $working->start(0);
    $loudest = $worst = 0.0;
    for ($at = 0; $at < CLIPS_END; $at += 512) {
        [$one, $other] = [$resting->next(), $working->next()];
        foreach ([[$one->left, $other->left], [$one->right(), $other->right()]] as [$mine, $theirs]) {
            foreach ($theirs as $i => $sample) {
                $loudest = max($loudest, abs($sample));
                $worst = max($worst, abs($mine[$i] - $sample));
            }
        }
    }
    expect($loudest)->toBeGreaterThan(0.01)->and($worst)->toBeLessThan(1e-9 * $loudest);
}

it('sounds the same where inserts rest', function (string $id): void {
    foreach (in_array($id, ['reverb', 'echo', 'compressor', 'drive', 'filter'], true) ? Width::cases() : [Width::Stereo] as $width) {
        restsUnheard(
            static fn (bool $zeros): Session => Mix::session([Mix::track('one', [Mix::insert('i1', $id, Signal::busy($id), 0.7)], $width)->withSource(clipsWithGaps($zeros))], length: CLIPS_END),
            burstLibrary($width),
        );
    }
    // Left out is pitch shift, where the last bit decides at which of two equally good places it splices.
})->with(static fn (): array => array_values(array_diff(ProcessorCatalogue::standard()->effects(), ['pitch-shift'])));

it('sounds the same where whole paths rest: splits, sends, sidechains, delays of alignment, lanes, cues', function (): void {
    $make = static function (bool $zeros): Session {
        $session = Mix::session([
            Mix::track('one', [
                Mix::split('s1', [new Branch('b1', 'Low', -3.0, inserts: [Mix::insert('i1', 'drive')]), new Branch('b2', 'High', 0.0, pan: 0.4, inserts: [Mix::insert('i2', 'limiter')])], SplitBy::Frequency, 900.0),
                Mix::insert('i3', 'compressor', ['release' => 1500.0]),
            ], Width::Stereo)->withSource(clipsWithGaps($zeros))->withFader(-3.0)->withPan(0.3)->withSends([new Send('n1', 'hall', -6.0), new Send('n2', 'cue', -3.0, TapPoint::PreFader)]),
            Mix::track('two', [Mix::insert('i4', 'filter'), Mix::insert('i5', 'compressor')->withSidechain(new TapSource('one', TapPoint::PreFader))], Width::Mono)->withSource(clipsWithGaps($zeros))->withOutput('group'),
            Mix::track('three', [Mix::insert('i6', 'parametric-eq', ['bell-1-gain' => 6.0])], Width::Mono)->withSource(new TapSource('two', TapPoint::Source))->withOutput('group'),
            Mix::bus('group', ChannelKind::Group, [Mix::insert('i7', 'tilt', ['tilt' => 3.0])]),
            Mix::bus('hall', ChannelKind::Return, [Mix::insert('i8', 'room')]),
            Mix::bus('cue', ChannelKind::Cue),
        ], [Mix::insert('i9', 'limiter')], CLIPS_END);
        foreach ([['fader', -12.0, 0.0], ['parameter:i4:frequency', 60.0, 400.0]] as [$target, $from, $to]) {
            $session = edited($session, ['type' => 'set-automation', 'channel' => 'two', 'target' => $target, 'points' => [['at' => 0, 'value' => $from], ['at' => CLIPS_END, 'value' => $to]]]);
        }

        return $session;
    };
    restsUnheard($make, burstLibrary(Width::Stereo));
});

it('does no work while it rests, and none before anything sounds', function (): void {
    $session = Mix::session([
        Mix::track('one', [Mix::insert('i1', 'reverb', ['decay' => 0.3]), Mix::split('s1', [new Branch('b1', 'A', inserts: [Mix::insert('i2', 'chorus')])]), Mix::insert('i3', 'compressor')], Width::Stereo)->withSource(clipsWithGaps(false)),
    ], [Mix::insert('i4', 'limiter')], CLIPS_END);
    $engine = Mix::engine($session, burstLibrary(Width::Stereo), metered: true);
    $engine->start(0);
    $spent = static fn (): array => array_map(static fn (InsertRunner $runner): int => $runner->takeNanoseconds(), array_merge(...array_values(array_map(static fn ($strip): array => $strip->runners(), $engine->plan()->strips))));
    Mix::take($engine, 10 * 512);
    expect(min($spent()))->toBeGreaterThan(0);
    Mix::take($engine, 330 * 512);
    $spent();
    $engine->readings();
    Mix::take($engine, 10 * 512);
    expect(max($spent()))->toBe(0);
    // Meters show silence, not what was before.
    foreach ($engine->readings() as $tap => $reading) {
        expect($reading->peak)->toBe(0.0, $tap);
    }
    Mix::take($engine, 75 * 512);
    expect(min($spent()))->toBeGreaterThan(0)->and($engine->readings()['main:post-fader']->peak)->toBeGreaterThan(0.01);
});

it('lets what follows an effect that counts on rest in silence', function (): void {
    $session = Mix::session([Mix::track('one', [Mix::insert('i1', 'pitch-correction'), Mix::insert('i2', 'drive')])->withSource(clipsWithGaps(false))], [], CLIPS_END);
    $engine = Mix::engine($session, burstLibrary(Width::Mono));
    $engine->start(0);
    Mix::take($engine, 330 * 512);
    $engine->loads();
    Mix::take($engine, 10 * 512);
    $loads = $engine->loads();
    expect($loads['one:insert:i1'])->toBeGreaterThan(0.0)->and($loads['one:insert:i2'])->toBe(0.0);
});

it('goes on where a setting is made while it rests', function (): void {
    $make = static fn (float $gain): Session => Mix::session([Mix::track('one', [Mix::insert('i1', 'echo', [], 0.5), Mix::insert('i2', 'compressor')], Width::Stereo)->withSource(clipsWithGaps(false))->withFader($gain)], length: CLIPS_END);
    $library = burstLibrary(Width::Stereo);
    [$engine, $fresh] = [Mix::engine($make(0.0), $library), Mix::engine($make(-6.0), $library)];
    $engine->start(0);
    $fresh->start(0);
    Mix::take($engine, 395 * 512);
    Mix::take($fresh, 395 * 512);
    $engine->change($make(-6.0));
    Mix::take($engine, 20 * 512);
    Mix::take($fresh, 20 * 512);
    $heard = Mix::take($engine, 20 * 512);
    expect(Mix::difference($heard, Mix::take($fresh, 20 * 512)))->toBeLessThan(1e-9)->and(Signal::peak($heard->left))->toBeGreaterThan(0.01);
});
