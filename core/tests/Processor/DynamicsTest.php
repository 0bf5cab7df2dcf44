<?php

declare(strict_types=1);

use Hafen\Audio\Block;
use Hafen\Processor\TakesSidechain;
use Hafen\Tests\Support\Reference;
use Hafen\Tests\Support\Signal;

/** dB by which a steady level is changed once all has settled. @param  array<string, float|string|bool>  $parameters */
function changeOfLevel(string $id, array $parameters, float $level, float $frequency = 1000.0): float
{
    $in = Signal::sine($frequency, 48000, 10 ** ($level / 20));
    $out = Signal::through(Signal::processor($id, $parameters), $in)->left;

    return 20 * log10(max(1e-9, Signal::rms(array_slice($out, 38400)) / Signal::rms(array_slice($in, 38400))));
}

// Source: Giannoulis, Massberg, Reiss, JAES 2012: below the threshold an expander of ratio R falls R dB for each; a gate stops at its range.
it('expands and gates below the threshold', function (): void {
    $expander = ['threshold' => -30.0, 'ratio' => 2.0, 'range' => 80.0, 'hysteresis' => 0.0, 'hold' => 0.0];
    expect(changeOfLevel('gate', $expander, -20.0))->toEqualWithDelta(0.0, 0.01)
        ->and(changeOfLevel('gate', $expander, -40.0))->toEqualWithDelta(-10.0, 0.5)
        ->and(changeOfLevel('gate', ['threshold' => -30.0, 'range' => 40.0], -50.0))->toEqualWithDelta(-40.0, 0.1);
});

it('stays open between opening and closing, and for the time it holds', function (): void {
    $gate = ['threshold' => -20.0, 'hysteresis' => 6.0, 'hold' => 100.0, 'release' => 5.0, 'attack' => 0.05];
    $level = static fn (float $db, int $n): array => array_fill(0, $n, 10 ** ($db / 20));
    // Loud, then between the two thresholds: it stays open. Softer than both: closed, but not before it has held.
    $out = Signal::through(Signal::processor('gate', $gate), [...$level(-10.0, 4800), ...$level(-24.0, 24000), ...$level(-40.0, 24000)])->left;
    expect($out[28000])->toEqualWithDelta(10 ** (-24 / 20), 1e-4)
        ->and($out[28800 + 4000])->toEqualWithDelta(0.01, 1e-4)
        ->and($out[28800 + 20000])->toBeLessThan(0.0001);
});

it('lets the key decide', function (string $id, array $parameters): void {
    // Pumping: the sound stays as it is, the key comes and goes.
    $processor = Signal::processor($id, $parameters);
    expect($processor)->toBeInstanceOf(TakesSidechain::class);
    $steady = array_fill(0, 4800, 0.1);
    $levels = [];
    foreach ([0.0, 1.0] as $key) {
        for ($i = 0; $i < 4; ++$i) {
            $block = Block::mono($steady);
            $processor->sidechain(Block::mono(array_fill(0, 4800, $key)));
            $processor->process($block);
        }
        $levels[] = abs($block->left[4700]);
    }
    $id === 'gate' ? expect($levels[0])->toBeLessThan(0.001)->and($levels[1])->toEqualWithDelta(0.1, 1e-3)
        : expect($levels[0])->toEqualWithDelta(0.1, 1e-6)->and($levels[1])->toBeLessThan(0.05);
    // Without a key it listens to itself again.
    for ($i = 0; $i < 20; ++$i) {
        $block = Block::mono($steady);
        $processor->process($block);
    }
    expect(abs($block->left[4700]))->toEqualWithDelta($id === 'gate' ? 0.0001 : 0.1, $id === 'gate' ? 1e-4 : 1e-3);
})->with([['compressor', ['threshold' => -18.0, 'ratio' => 10.0]], ['gate', ['threshold' => -10.0]]]);

// Source: Linkwitz & Riley, JAES 1976: bands add up to an all-pass, flat within 0.01 dB; checked by scipy.signal.freqz.
it('adds its bands up flat while nothing is done', function (string $id, array $parameters): void {
    $out = Signal::through(Signal::processor($id, $parameters), Signal::impulse(16384, 0.001))->left;
    $levels = Reference::python('_, h = sig.freqz(np.array(data["x"])*1000, 1, np.geomspace(20, 20000, 60), fs=48000); print(json.dumps((20*np.log10(np.abs(h))).tolist()))', ['x' => $out]);
    foreach ($levels as $level) {
        expect($level)->toEqualWithDelta(0.0, 0.01);
    }
})->with([['multiband-compressor', []], ['de-esser', []]]);

it('compresses each band by its own curve', function (): void {
    $parameters = ['low-threshold' => -20.0, 'low-ratio' => 4.0, 'mid-threshold' => 0.0, 'high-threshold' => -40.0, 'high-ratio' => 2.0];
    // Far from the crossovers one band has it all: -8 dB is 12 over -20, so 9 less; 32 over -40 at 2:1 is 16 less.
    expect(changeOfLevel('multiband-compressor', ['low-attack' => 200.0, 'low-release' => 2000.0, ...$parameters], -8.0, 40.0))->toEqualWithDelta(-9.0, 0.7)
        ->and(changeOfLevel('multiband-compressor', $parameters, -20.0, 700.0))->toEqualWithDelta(0.0, 0.1)
        ->and(changeOfLevel('multiband-compressor', ['high-release' => 2000.0, ...$parameters], -8.0, 14000.0))->toEqualWithDelta(-16.0, 0.7);
});

it('turns down sharp consonants and nothing else', function (): void {
    $parameters = ['threshold' => -30.0, 'ratio' => 20.0, 'range' => 8.0];
    expect(changeOfLevel('de-esser', $parameters, -10.0, 15000.0))->toEqualWithDelta(-8.0, 0.3)
        ->and(changeOfLevel('de-esser', $parameters, -10.0, 400.0))->toEqualWithDelta(0.0, 0.05);
    $both = array_map(static fn (float $a, float $b): float => $a + $b, Signal::sine(400.0, 48000, 0.3), Signal::sine(15000.0, 48000, 0.3));
    $out = array_slice(Signal::through(Signal::processor('de-esser', $parameters), $both)->left, 24000);
    expect(20 * log10(Signal::amplitudeAt($out, 400.0) / 0.3))->toEqualWithDelta(0.0, 0.05)
        ->and(20 * log10(Signal::amplitudeAt($out, 15000.0) / 0.3))->toEqualWithDelta(-8.0, 0.3);
    $wide = array_slice(Signal::through(Signal::processor('de-esser', ['works-on' => 'all', ...$parameters]), $both)->left, 24000);
    expect(20 * log10(Signal::amplitudeAt($wide, 400.0) / 0.3))->toEqualWithDelta(-8.0, 0.3);
});

it('shapes attacks alike at every level', function (): void {
    // Bursts that start hard and ring; the attack's share of the energy grows, at -6 dB as at -40.
    $burst = array_map(static fn (int $i): float => sin($i / 5) * exp(-($i % 24000) / 4000), range(0, 71999));
    $share = static fn (array $x): float => Signal::rms(array_slice($x, 48000, 400)) / Signal::rms(array_slice($x, 52000, 8000));
    foreach ([0.5, 0.01] as $gain) {
        $in = array_map(static fn (float $x): float => $gain * $x, $burst);
        $more = Signal::through(Signal::processor('transient-shaper', ['attack' => 100.0]), $in)->left;
        $less = Signal::through(Signal::processor('transient-shaper', ['attack' => -100.0]), $in)->left;
        $longer = Signal::through(Signal::processor('transient-shaper', ['sustain' => 100.0]), $in)->left;
        $changes[] = [$share($more) / $share($in), $share($less) / $share($in), $share($longer) / $share($in)];
    }
    expect($changes[0][0])->toBeGreaterThan(1.5)->and($changes[0][1])->toBeLessThan(0.67)->and($changes[0][2])->toBeLessThan(0.9);
    foreach ([0, 1, 2] as $k) {
        expect($changes[1][$k] / $changes[0][$k])->toEqualWithDelta(1.0, 0.05);
    }
});
