<?php

declare(strict_types=1);

use Hafen\Tests\Support\Reference;
use Hafen\Tests\Support\Signal;

/** dB at frequencies, measured on the impulse response. @param  array<string, float|string|bool>  $parameters @param  list<float>  $frequencies @return list<float> */
function levelsOf(string $id, array $parameters, array $frequencies, int $rate = 48000, int $length = 32768): array
{
    $out = Signal::through(Signal::processor($id, $parameters, $rate), Signal::impulse($length), blockSize: 4096)->left;

    return Reference::python('_, h = sig.freqz(data["x"], 1, data["f"], fs=data["r"]); print(json.dumps((20*np.log10(np.abs(h)+1e-12)).tolist()))', ['x' => $out, 'f' => $frequencies, 'r' => $rate]);
}

// Source: the curve drawn, at the sliders' centres, by scipy.signal.freqz on our impulse response; centres ISO 266 (from memory).
it('goes through every slider within half a dB', function (string $id, int $rate): void {
    $sliders = array_filter(Hafen\Processor\ProcessorCatalogue::standard()->spec($id)->parameters, static fn ($p): bool => (float) str_replace(['band-', '-'], ['', '.'], $p->id) < 0.45 * $rate);
    foreach ([3, 8] as $seed) {
        mt_srand($seed);
        $gains = [];
        foreach ($sliders as $slider) {
            $gains[$slider->id] = (float) mt_rand(-120, 120) / 10.0;
        }
        $levels = levelsOf($id, $gains, array_map(static fn (string $band): float => (float) str_replace(['band-', '-'], ['', '.'], $band), array_keys($gains)), $rate, 65536);
        foreach (array_values($gains) as $i => $gain) {
            expect($levels[$i])->toEqualWithDelta($gain, 0.5);
        }
    }
})->with([['graphic-eq-3', 48000], ['graphic-eq-10', 48000], ['graphic-eq-10', 44100], ['graphic-eq-31', 48000], ['graphic-eq-31', 96000]]);

it('stays flat between sliders that stand at one height', function (string $id): void {
    $gains = [];
    $centres = [];
    foreach (Hafen\Processor\ProcessorCatalogue::standard()->spec($id)->parameters as $slider) {
        $gains[$slider->id] = 6.0;
        $centres[] = (float) str_replace(['band-', '-'], ['', '.'], $slider->id);
    }
    $frequencies = array_map(static fn (int $i): float => $centres[0] * (end($centres) / $centres[0]) ** ($i / 60), range(0, 60));
    foreach (levelsOf($id, $gains, $frequencies, length: 65536) as $level) {
        expect($level)->toEqualWithDelta(6.0, 0.5);
    }
})->with(['graphic-eq-10', 'graphic-eq-31']);

it('draws the response that is heard', function (string $id, array $parameters): void {
    $picture = Hafen\Processor\ProcessorCatalogue::standard()->picture($id, $parameters, new Hafen\Processor\Setting(48000, 120.0));
    $points = array_values(array_filter($picture->curves[0]['points'], static fn (array $p, int $i): bool => $i % 20 === 0 && $p[0] > 30.0, ARRAY_FILTER_USE_BOTH));
    foreach (levelsOf($id, $parameters, array_column($points, 0)) as $i => $level) {
        if ($points[$i][1] > -50.0) {
            expect($level)->toEqualWithDelta($points[$i][1], 0.15);
        }
    }
})->with([
    ['tilt', ['tilt' => 5.0, 'pivot' => 900.0]],
    ['telephone', ['honk' => 8.0]],
    ['graphic-eq-10', ['band-125' => 7.0, 'band-2000' => -9.0]],
    ['sweep-filter', ['envelope' => 0.0, 'resonance' => 60.0]],
    ['sweep-filter', ['envelope' => 0.0, 'resonance' => 90.0, 'type' => 'band-pass', 'frequency' => 2500.0]],
    ['sweep-filter', ['envelope' => 0.0, 'type' => 'high-pass']],
    ['flanger', ['depth' => 0.0, 'feedback' => 60.0, 'delay' => 2.0]],
]);

it('leans by as much on either end', function (): void {
    [$low, $pivot, $high] = levelsOf('tilt', ['tilt' => 6.0, 'pivot' => 800.0], [20.0, 800.0, 20000.0]);
    expect($low)->toEqualWithDelta(-6.0, 0.1)->and($pivot)->toEqualWithDelta(0.0, 0.01)->and($high)->toEqualWithDelta(6.0, 0.1);
});

// Source: ITU-T G.712 (from memory): -3 dB or lower outside 300 to 3400 Hz; slopes by scipy.signal.butter.
it('leaves the band of a telephone', function (): void {
    $outside = [100.0, 200.0, 300.0, 3400.0, 5000.0, 10000.0];
    foreach (levelsOf('telephone', [], $outside) as $level) {
        expect($level)->toBeLessThanOrEqual(-2.99);
    }
    $reference = Reference::python('s = np.vstack([sig.butter(4, 300, "highpass", fs=48000, output="sos"), sig.butter(4, 3400, "lowpass", fs=48000, output="sos")]); print(json.dumps((20*np.log10(np.abs(sig.sosfreqz(s, data["f"], fs=48000)[1]))).tolist()))', ['f' => [150.0, 300.0, 1000.0, 3400.0, 6800.0]]);
    foreach (levelsOf('telephone', [], [150.0, 300.0, 1000.0, 3400.0, 6800.0]) as $i => $level) {
        expect($level)->toEqualWithDelta($reference[$i], 0.02);
    }
});

it('opens with the level', function (): void {
    // The same noise soft and loud: the loud one lets more of the highs through, relative to itself.
    $noise = Signal::noise(24000, 5, 1.0);
    $bright = static function (float $gain) use ($noise): float {
        $out = Signal::through(Signal::processor('sweep-filter', ['envelope' => 4.0, 'frequency' => 300.0]), array_map(static fn (float $x): float => $gain * $x, $noise))->left;

        return Signal::rms($out) / $gain;
    };
    expect($bright(0.8))->toBeGreaterThan(1.5 * $bright(0.01));
});
