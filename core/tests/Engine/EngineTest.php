<?php

declare(strict_types=1);

use Hafen\Demo\FerryTerminal;
use Hafen\Engine\Loop;
use Hafen\Engine\Tap;
use Hafen\Processor\ProcessorCatalogue;
use Hafen\Routing\Alignment;
use Hafen\Routing\PanLaw;
use Hafen\Session\Channel\Channel;
use Hafen\Session\Channel\ChannelTrim;
use Hafen\Session\Channel\Width;
use Hafen\Session\Insert\Row;
use Hafen\Session\Session;
use Hafen\Session\Source\Clip;
use Hafen\Session\Source\ClipSource;
use Hafen\Tests\Support\MemoryLibrary;
use Hafen\Tests\Support\Mix;
use Hafen\Tests\Support\Signal;

require_once __DIR__.'/../Support/edited.php';

function noiseLibrary(int $length = 20000): MemoryLibrary
{
    return new MemoryLibrary([
        'cello' => [Signal::noise($length, 41)],
        'bass' => [Signal::noise($length, 42)],
        'choir' => [Signal::noise($length, 43), Signal::noise($length, 44)],
    ]);
}

function busySession(int $length = 20000): Session
{
    return Mix::session([
        Mix::track('cello', [Mix::insert('i1', 'filter'), Mix::insert('i2', 'reverb', ['decay' => 0.6], 0.3)], length: $length),
        Mix::track('bass', [Mix::insert('i3', 'drive', [], 0.5), Mix::insert('i4', 'compressor'), Mix::insert('i5', 'limiter', on: false)], length: $length),
        Mix::track('choir', [Mix::insert('i6', 'echo', ['unit' => 'ms', 'time' => 90.0], 0.4), Mix::insert('i7', 'parametric-eq', ['bell-1-gain' => 4.0])], Width::Stereo, $length),
    ], [Mix::insert('i8', 'limiter', ['ceiling' => -2.0])], $length);
}

it('renders the same in blocks of 64, 512 and 4096', function (): void {
    $reference = Mix::render(busySession(), noiseLibrary(), 512);
    foreach ([64, 4096] as $size) {
        expect(Mix::render(busySession(), noiseLibrary(), $size))->toEqual($reference);
    }
});

it('keeps sample 0 at sample 0 whatever the latency', function (): void {
    $library = new MemoryLibrary(['cello' => [Signal::impulse(20000, 0.5)], 'bass' => [Signal::impulse(20000, 0.5)]]);
    $session = Mix::session([
        Mix::track('cello'),
        Mix::track('bass', [Mix::insert('i1', 'limiter', ['look-ahead' => '10ms']), Mix::insert('i2', 'drive', ['drive' => 0.0, 'shape' => 100.0, 'output' => 0.0])]),
    ], [Mix::insert('i3', 'limiter')], 20000);
    $out = Mix::render($session, $library)->left;
    // Both impulses meet at the very first sample: 0.5 and 0.5, each 3.01 dB down at the centre; the drive's band ends at 19 kHz.
    expect($out[0])->toEqualWithDelta(M_SQRT1_2, 0.02)->and(Signal::peak(array_slice($out, 100)))->toBeLessThan(0.001);
    expect(Alignment::of($session, ProcessorCatalogue::standard())->session)->toBe(480 + 6 + 27 + 96 + 6);
});

it('lines up every tap too', function (string $tap): void {
    $library = new MemoryLibrary(['bass' => [Signal::impulse(4000, 0.5)]]);
    $session = Mix::session([Mix::track('bass', [Mix::insert('i1', 'limiter'), Mix::insert('i2', 'limiter', on: false)])]);
    $out = Mix::render($session, $library, tap: $tap, frames: 4000)->left;
    expect(array_search(Signal::peak($out), $out, true))->toBe(0);
})->with(['bass:source', 'bass:insert:i1', 'bass:pre-fader', 'bass:post-fader', 'main:source', 'main:post-fader']);

it('does not shift time when an insert is bypassed', function (): void {
    $library = noiseLibrary();
    $on = Mix::session([Mix::track('bass', [Mix::insert('i1', 'limiter', ['ceiling' => 0.0])])], length: 20000);
    $off = Mix::session([Mix::track('bass', [Mix::insert('i1', 'limiter', on: false)])], length: 20000);
    $without = Mix::session([Mix::track('bass')], length: 20000);
    expect(Mix::difference(Mix::render($off, $library), Mix::render($without, $library)))->toBe(0.0)
        ->and(Mix::difference(Mix::render($on, $library), Mix::render($without, $library)))->toBe(0.0);
});

it('nulls a bypassed row against no row', function (): void {
    $library = noiseLibrary();
    $session = busySession();
    $bypassed = $session;
    $empty = $session;
    foreach ($session->channels as $channel) {
        $bypassed = $bypassed->withChannel($channel->withInsertsOn(false));
        $empty = $empty->withChannel($channel->withRow(Row::Inserts, []));
    }
    expect(Mix::difference(Mix::render($bypassed, $library), Mix::render($empty, $library)))->toBe(0.0);
});

it('blends dry and wet in time', function (): void {
    // A limiter that does nothing, half wet: any misalignment would comb.
    $library = noiseLibrary();
    $half = Mix::session([Mix::track('bass', [Mix::insert('i1', 'limiter', ['ceiling' => 0.0], 0.5)])], length: 20000);
    $none = Mix::session([Mix::track('bass')], length: 20000);
    expect(Mix::difference(Mix::render($half, $library), Mix::render($none, $library)))->toBeLessThan(1e-15);
});

// Source: 20 log10 2 for equal signals; 10 log10 2 for uncorrelated ones (practice).
it('sums two equal signals to +6.02 dB and uncorrelated ones to +3.01', function (): void {
    $sine = Signal::sine(1000.0, 48000, 0.25);
    $library = new MemoryLibrary(['a' => [$sine], 'b' => [$sine], 'cello' => [Signal::noise(48000, 41)], 'bass' => [Signal::noise(48000, 42)]]);
    $level = static fn (array $tracks): float => 20 * log10(Signal::rms(Mix::render(Mix::session($tracks), $library)->left));
    expect($level([Mix::track('a'), Mix::track('b')]) - $level([Mix::track('a')]))->toEqualWithDelta(6.0206, 0.0001)
        ->and($level([Mix::track('cello'), Mix::track('bass')]) - $level([Mix::track('cello')]))->toEqualWithDelta(3.01, 0.15);
});

// Source: constant-power panning, practice.
it('pans with constant power, -3.01 dB a side at the centre', function (): void {
    for ($pan = -1.0; $pan <= 1.0; $pan += 0.05) {
        [$left, $right] = PanLaw::gains(Width::Mono, $pan, -3.0);
        expect($left ** 2 + $right ** 2)->toEqualWithDelta(1.0, 1e-9);
    }
    expect(PanLaw::gains(Width::Mono, 0.0, -3.0)[0])->toEqualWithDelta(10 ** (-3.0103 / 20), 1e-6)
        ->and(PanLaw::gains(Width::Mono, -1.0, -3.0))->toEqualWithDelta([1.0, 0.0], 1e-12)
        ->and(PanLaw::gains(Width::Mono, 1.0, -3.0)[0])->toBe(0.0)
        ->and(PanLaw::gains(Width::Stereo, 0.0, -3.0))->toEqualWithDelta([1.0, 1.0], 1e-12)
        ->and(PanLaw::gains(Width::Mono, 0.0, -6.0)[0])->toEqualWithDelta(0.5, 1e-9)
        ->and(PanLaw::gains(Width::Mono, 0.0, 0.0)[0])->toEqualWithDelta(1.0, 1e-3);
});

it('applies trim, polarity, clip gain, fader and mute in order', function (): void {
    $library = new MemoryLibrary(['bass' => [array_fill(0, 4000, 0.5)]]);
    $track = Mix::track('bass', [], Width::Stereo)->withTrim(new ChannelTrim(-6.0, true))->withFader(-6.0)
        ->withSource(new ClipSource([new Clip('k1', 'bass', 0, 0, 4000, -6.0)]));
    $at = static fn (string $tap, bool $mute = false): float => Mix::render(Mix::session([$track->withMute($mute)], length: 4000), $library, tap: $tap)->left[2000];
    $six = 10 ** (-6 / 20);
    expect($at('bass:source'))->toEqualWithDelta(-0.5 * $six ** 2, 1e-12)
        ->and($at('bass:pre-fader'))->toEqualWithDelta(-0.5 * $six ** 2, 1e-12)
        ->and($at('bass:post-fader'))->toEqualWithDelta(-0.5 * $six ** 3, 1e-12)
        ->and($at('bass:pre-fader', true))->toEqualWithDelta(-0.5 * $six ** 2, 1e-12)
        ->and($at('bass:post-fader', true))->toBe(0.0);
});

it('cuts, places and overlaps clips', function (): void {
    $library = new MemoryLibrary(['a' => [range(0.0, 0.99, 0.01)]]);
    $track = Mix::track('a', [], Width::Stereo)->withSource(new ClipSource([
        new Clip('k1', 'a', 10, 20, 30),
        new Clip('k2', 'a', 35, 0, 10, -6.0),
    ]));
    $out = Mix::render(Mix::session([$track], length: 64), $library, 64)->left;
    expect($out[9])->toBe(0.0)->and($out[10])->toEqualWithDelta(0.20, 1e-12)->and($out[34])->toEqualWithDelta(0.44, 1e-12)
        ->and($out[36])->toEqualWithDelta(0.46 + 0.01 * 10 ** (-6 / 20), 1e-12)->and($out[39])->toBeGreaterThan(0.49)
        ->and($out[44])->toEqualWithDelta(0.09 * 10 ** (-6 / 20), 1e-12)->and($out[45])->toBe(0.0);
});

it('plays only what is soloed or solo-safe', function (): void {
    $library = new MemoryLibrary(['a' => [array_fill(0, 2000, 0.1)], 'b' => [array_fill(0, 2000, 0.2)], 'c' => [array_fill(0, 2000, 0.4)]]);
    $tracks = array_map(static fn (string $id) => Mix::track($id, [], Width::Stereo), ['a', 'b', 'c']);
    $level = static fn (array $tracks): float => round(Mix::render(Mix::session($tracks, length: 2000), $library)->left[1000], 9);
    [$a, $b, $c] = $tracks;
    expect($level([$a, $b, $c]))->toBe(0.7)
        ->and($level([$a->withSolo(true), $b, $c]))->toBe(0.1)
        ->and($level([$a->withSolo(true), $b->withSoloSafe(true), $c]))->toBe(0.3)
        ->and($level([$a->withSolo(true), $b->withSoloSafe(true)->withMute(true), $c]))->toBe(0.1);
});

it('goes on through a change of revision without a jump and without losing state', function (): void {
    $library = noiseLibrary();
    $session = busySession();
    $engine = Mix::engine($session, $library);
    $engine->start(0);
    $steady = Mix::engine($session, $library);
    $steady->start(0);
    Mix::take($engine, 5120);
    Mix::take($steady, 5120);
    // A change that cannot be heard must change nothing, to the bit: every processor keeps its state.
    $engine->change($session->withChannel($session->channel('cello')->withName('Violoncello')));
    expect(Mix::take($engine, 2048))->toEqual(Mix::take($steady, 2048));
});

it('moves a fader smoothly and arrives exactly', function (): void {
    $library = new MemoryLibrary(['a' => [array_fill(0, 48000, 0.5)]]);
    $session = Mix::session([Mix::track('a', [], Width::Stereo)]);
    $engine = Mix::engine($session, $library);
    $engine->start(0);
    Mix::take($engine, 512);
    $engine->change($session->withChannel($session->channel('a')->withFader(-20.0)));
    $out = Mix::take($engine, 2048)->left;
    for ($i = 1; $i < 2048; ++$i) {
        expect(abs($out[$i] - $out[$i - 1]))->toBeLessThan(0.001);
    }
    expect($out[0])->toBeGreaterThan(0.49)->and($out[2047])->toBe(0.05);
});

it('moves parameters smoothly, the same at every block length', function (): void {
    $library = new MemoryLibrary(['a' => [Signal::sine(1000.0, 48000, 0.5)]]);
    $session = Mix::session([Mix::track('a', [Mix::insert('i1', 'filter', ['type' => 'low-pass', 'frequency' => 8000.0])], Width::Stereo)]);
    $louder = Mix::session([Mix::track('a', [Mix::insert('i1', 'filter', ['type' => 'low-pass', 'frequency' => 500.0])], Width::Stereo)]);
    $sounds = [];
    foreach ([64, 512, 1024] as $size) {
        $engine = Mix::engine($session, $library, $size);
        $engine->start(0);
        Mix::take($engine, 4096);
        $engine->change($louder);
        $sounds[] = Mix::take($engine, 4096)->left;
    }
    expect($sounds[1])->toBe($sounds[0])->and($sounds[2])->toBe($sounds[0]);
    // No step is larger than the sine itself makes.
    for ($i = 1; $i < 4096; ++$i) {
        expect(abs($sounds[0][$i] - $sounds[0][$i - 1]))->toBeLessThan(0.07);
    }
});

it('adds, removes and reorders inserts without a click', function (): void {
    $library = new MemoryLibrary(['a' => [Signal::sine(200.0, 48000, 0.5)]]);
    $one = Mix::session([Mix::track('a', [Mix::insert('i1', 'gain', ['gain' => 6.0]), Mix::insert('i2', 'drive')], Width::Stereo)]);
    $two = Mix::session([Mix::track('a', [Mix::insert('i2', 'drive'), Mix::insert('i3', 'gain', ['gain' => -12.0])], Width::Stereo)]);
    $engine = Mix::engine($one, $library);
    $engine->start(0);
    Mix::take($engine, 4096);
    $engine->change($two);
    $out = Mix::take($engine, 8192)->left;
    for ($i = 1; $i < 8192; ++$i) {
        expect(abs($out[$i] - $out[$i - 1]))->toBeLessThan(0.06);
    }
    $steady = Mix::engine($two, $library);
    $steady->start(0);
    $expected = Mix::take($steady, 4096 + 8192)->left;
    expect($out[8000])->toEqualWithDelta($expected[4096 + 8000], 1e-6);
});

it('starts in mid-session as if played from the start', function (): void {
    $library = noiseLibrary();
    $whole = Mix::render(busySession(), $library)->left;
    $late = Mix::render(busySession(), $library, from: 12000)->left;
    foreach ([0, 1, 100, 5000] as $i) {
        expect($late[$i])->toEqualWithDelta($whole[12000 + $i], 1e-9);
    }
});

it('loops, and names the place of every block', function (): void {
    $library = new MemoryLibrary(['a' => [range(0.0, 0.9999, 0.0001)]]);
    $engine = Mix::engine(Mix::session([Mix::track('a', [Mix::insert('i1', 'limiter', ['ceiling' => 0.0])], Width::Stereo)], length: 10000), $library);
    $engine->loopOver(new Loop(1000, 3000));
    $engine->start(1000);
    for ($i = 0; $i < 40; ++$i) {
        $position = $engine->position();
        $block = $engine->next();
        expect($position)->toBeGreaterThanOrEqual(1000)->toBeLessThan(3000)
            ->and($block->left[0])->toEqualWithDelta($position * 0.0001, 1e-9);
    }
});

it('silences a channel that puts out what is not a number, and plays the rest on', function (): void {
    $bad = array_fill(0, 8000, 0.1);
    $bad[3000] = NAN;
    $library = new MemoryLibrary(['a' => [$bad], 'b' => [array_fill(0, 8000, 0.25)]]);
    $session = Mix::session([Mix::track('a', [Mix::insert('i1', 'reverb', ['decay' => 12.0])], Width::Stereo), Mix::track('b', [], Width::Stereo)], length: 8000);
    $engine = Mix::engine($session, $library);
    $engine->start(0);
    $out = Mix::take($engine, 8000)->left;
    $faults = $engine->faults();
    expect(is_finite(array_sum($out)))->toBeTrue()
        ->and($faults)->toHaveCount(1)->and($faults[0]->channel)->toBe('a')
        // Nothing of it while it is silenced, and a clean start after it.
        ->and($out[$faults[0]->position + 5])->toBe(0.25)
        ->and(abs($out[7900] - 0.25))->toBeGreaterThan(0.0);
});

it('measures every tap and every processor', function (): void {
    $library = new MemoryLibrary(['a' => [Signal::sine(1000.0, 48000, 1.0)]]);
    $engine = Mix::engine(Mix::session([Mix::track('a', [Mix::insert('i1', 'gain', ['gain' => 6.0]), Mix::insert('i2', 'compressor', ['threshold' => -20.0])], Width::Stereo)]), $library, metered: true);
    $engine->start(0);
    Mix::take($engine, 24000);
    $readings = $engine->readings();
    expect(array_keys($readings))->toBe($engine->tapIds())
        ->and($readings['a:source']->peakLevel())->toEqualWithDelta(0.0, 0.001)
        // RMS of a full-scale sine: -3.01 dB without the AES17 reference (AES17).
        ->and($readings['a:source']->rmsLevel())->toEqualWithDelta(-3.01, 0.01)
        ->and($readings['a:insert:i1']->peakLevel())->toEqualWithDelta(6.0, 0.001)
        ->and($readings['a:insert:i1']->overs)->toBeGreaterThan(20000)
        ->and($readings['a:source']->overs)->toBe(0)
        ->and($readings['a:insert:i2']->gainReduction)->toBeGreaterThan(10.0);
    $loads = $engine->loads();
    expect(array_keys($loads))->toBe($engine->loadIds())->and($loads['a:insert:i2'])->toBeGreaterThan(0.0)->and($loads['a'])->toBeGreaterThan($loads['a:insert:i2']);
});

it('reads every tap of the channels somebody looks at, of the others the end, and plays the same', function (): void {
    $all = Mix::engine(busySession(), noiseLibrary(), metered: true);
    $some = Mix::engine(busySession(), noiseLibrary(), metered: true);
    $ends = array_map(static fn (Channel $channel): string => "{$channel->id}:post-fader", busySession()->channels);
    $some->meterOnly(['bass', 'gone']);
    foreach ([$all, $some] as $engine) {
        $engine->start(0);
    }
    expect(Mix::difference(Mix::take($some, 9000), Mix::take($all, 9000)))->toBe(0.0);
    [$everything, $read] = [$all->readings(), $some->readings()];
    $shown = static fn (string $tap): bool => str_starts_with($tap, 'bass:') || in_array($tap, $ends, true);
    expect(array_keys($read))->toBe(array_values(array_filter($some->tapIds(), $shown)))
        ->and($some->tapIds())->toBe($all->tapIds())->and(count($read))->toBeLessThan(count($everything));
    foreach ($read as $tap => $reading) {
        expect($reading)->toEqual($everything[$tap], $tap);
    }

    // What was read before it was left out does not count when it is looked at again.
    $some->meterOnly(null);
    Mix::take($some, 4096);
    Mix::take($all, 4096);
    $all->readings();
    $some->meterOnly([]);
    Mix::take($some, 4096);
    Mix::take($all, 4096);
    $all->readings();
    expect(array_keys($some->readings()))->toEqualCanonicalizing($ends);
    $some->meterOnly(['bass']);
    Mix::take($some, 512);
    Mix::take($all, 512);
    $now = $all->readings();
    foreach ($some->readings() as $tap => $reading) {
        expect($reading)->toEqual($now[$tap], $tap);
    }

    // It holds from one revision to the next, for what is new as well.
    $added = edited(busySession(), ['type' => 'add-insert', 'channels' => ['bass', 'cello'], 'processor' => 'gain', 'parameters' => ['gain' => 3.0]]);
    $some->change($added);
    Mix::take($some, 4096);
    $new = array_values(array_diff($some->tapIds(), $all->tapIds()));
    expect($new)->toHaveCount(2)
        ->and(array_values(array_intersect(array_keys($some->readings()), $new)))->toBe(array_values(array_filter($new, static fn (string $tap): bool => str_starts_with($tap, 'bass:'))));
});

it('takes a rebuilt row where the end of a loop makes blocks shorter', function (): void {
    foreach (range(40, 1000, 96) as $odd) {
        $engine = Mix::engine(busySession(), noiseLibrary());
        $engine->loopOver(new Loop(0, 2 * 512 + $odd));
        $engine->start(0);
        $engine->next();
        $engine->next();
        $engine->change(edited(busySession(), ['type' => 'add-insert', 'channels' => ['cello', 'choir'], 'processor' => 'gain', 'parameters' => ['gain' => -6.0]]));
        $frames = array_map(static fn (): int => $engine->next()->frames(), range(1, 6));
        expect(min($frames))->toBeLessThan(512)->and($engine->tapIds())->toHaveCount(22);
    }
});

it('refuses to listen where there is no tap', function (): void {
    $engine = Mix::engine(busySession(), noiseLibrary());
    expect($engine->listenAt(new Tap('attic')))->toBeFalse()->and($engine->listenAt(Tap::afterInsert('bass', 'i1')))->toBeFalse()
        ->and($engine->listenAt(Tap::afterInsert('bass', 'i4')))->toBeTrue();
});

it('gives identical results with the JIT on and off', function (): void {
    $code = 'require "vendor/autoload.php"; '
        .'$s = Hafen\Tests\Support\Mix::session([Hafen\Tests\Support\Mix::track("a", array_map(fn ($p) => Hafen\Tests\Support\Mix::insert("i".$p, $p, $p === "parametric-eq" ? ["bell-1-gain" => 3.0, "low-shelf-gain" => 2.0, "bell-2-gain" => -2.0, "bell-3-gain" => 1.0, "high-pass" => true] : ($p === "limiter" ? ["true-peak" => true, "gain" => 9.0] : []), 0.6), Hafen\Processor\ProcessorCatalogue::standard()->effects()))], length: 48000); '
        .'$b = Hafen\Tests\Support\Mix::render($s, new Hafen\Tests\Support\MemoryLibrary(["a" => [Hafen\Tests\Support\Signal::noise(48000, 5)]])); '
        .'echo hash("sha256", pack("e*", ...$b->left).pack("e*", ...$b->right)), " ", (opcache_get_status(false)["jit"]["on"] ?? false) ? "on" : "off";';
    $run = static fn (string $jit): string => (string) shell_exec('PHP_INI_SCAN_DIR=:config/php '.PHP_BINARY." -d opcache.jit={$jit} -r ".escapeshellarg($code));
    [$with, $on] = explode(' ', $run('tracing'));
    [$without, $off] = explode(' ', $run('off'));
    expect([$on, $off])->toBe(['on', 'off'])->and($with)->toBe($without);
});

it('makes the demo: ten tracks in one key, with what a mix is routed through, a little too hot', function (): void {
    $session = (new FerryTerminal)->session(static fn (string $id): string => $id);
    expect($session->channels)->toHaveCount(20)->and($session->channel('voice')->source->input->port)->toBe('in:1')->and($session->length)->toBe(1_440_000);
    $demo = new FerryTerminal;
    $paths = [];
    foreach (['shaker', 'shaker'] as $i => $id) {
        $demo->write($id, $paths[] = sys_get_temp_dir()."/hafen-demo-{$i}.wav");
    }
    expect(hash_file('sha256', $paths[0]))->toBe(hash_file('sha256', $paths[1]));
    array_map(unlink(...), $paths);
});
