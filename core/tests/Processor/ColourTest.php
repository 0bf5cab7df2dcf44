<?php

declare(strict_types=1);

use Hafen\Dsp\Saturation\MonotoneCubic;
use Hafen\Tests\Support\Reference;
use Hafen\Tests\Support\Signal;

/** dB of harmonics against the fundamental of a sine sent through, and of the worst that is no harmonic. @param  array<string, float|string|bool>  $parameters @return array{list<float>, float} second to seventh, worst alias */
function harmonicsOf(string $id, array $parameters, float $amplitude, float $frequency = 1500.0): array
{
    $out = Signal::through(Signal::processor($id, $parameters), Signal::sine($frequency, 96000, $amplitude))->left;
    [$harmonics, $alias] = Reference::python(<<<'PYTHON'
        x = np.array(data["x"])[48000:]; s = np.abs(np.fft.rfft(x * sig.windows.blackmanharris(len(x)))); f = int(data["f"])
        top = s[f]; mask = np.ones(len(s), bool); mask[:20] = False; mask[20000:] = False
        for k in range(1, 24000 // f + 1): mask[max(0, k*f-8):k*f+9] = False
        print(json.dumps([[float(20*np.log10(s[k*f]/top+1e-12)) for k in range(2, 8)], float(20*np.log10(s[mask].max()/top))]))
        PYTHON, ['x' => $out, 'f' => $frequency]);

    return [$harmonics, $alias];
}

// Source: the identity T_n(cos a) = cos(n a), by numpy.fft.
it('makes one harmonic of a full-scale cosine for each polynomial', function (int $n): void {
    $out = Signal::through(Signal::processor('waveshaper', ['kind' => 'harmonics', 'harmonic-1' => 0.0, "harmonic-{$n}" => 100.0]), Signal::sine(1000.0, 96000, 1.0, phase: M_PI_2))->left;
    $spectrum = Reference::python('x = np.array(data["x"])[48000:]; s = np.abs(np.fft.rfft(x))/24000; print(json.dumps([float(s[k*1000]) for k in range(1, 9)]))', ['x' => $out]);
    foreach ($spectrum as $i => $amplitude) {
        $i + 1 === $n ? expect($amplitude)->toEqualWithDelta(1.0, 0.005) : expect(20 * log10($amplitude + 1e-12))->toBeLessThan(-60.0);
    }
})->with([2, 3, 4, 5]);

// Source: scipy.interpolate.PchipInterpolator (Fritsch & Butland's tangents inside; the ends differ, so they are left out).
it('draws a curve through its points that never swings beyond them', function (): void {
    $points = [-1.0, -0.9, -0.9, -0.2, 0.0, 0.7, 0.6, 0.9, 1.0];
    $curve = MonotoneCubic::through($points, 16);
    $theirs = Reference::python('from scipy.interpolate import PchipInterpolator as P; print(json.dumps(P(np.arange(9), data["p"])(np.arange(129)/16).tolist()))', ['p' => $points]);
    for ($i = 16; $i <= 112; ++$i) {
        expect($curve[$i])->toEqualWithDelta($theirs[$i], 1e-9);
    }
});

it('passes the waveform through an undrawn curve', function (): void {
    $in = Signal::sine(997.0, 9600, 0.9);
    $processor = Signal::processor('waveshaper');
    $out = Signal::through($processor, $in)->left;
    for ($i = 4800; $i < 9000; ++$i) {
        expect($out[$i])->toEqualWithDelta($in[$i - $processor->latency()], 1e-3);
    }
});

// Source: Fourier series: what is symmetric makes odd harmonics only.
it('makes the harmonics its curve stands for, with aliases far down', function (string $id, array $parameters, float $amplitude, bool $even, float $aliases): void {
    [$harmonics, $alias] = harmonicsOf($id, $parameters, $amplitude);
    expect($harmonics[1])->toBeGreaterThan(-50.0)->and($alias)->toBeLessThan($aliases);
    $even ? expect($harmonics[0])->toBeGreaterThan(-40.0) : expect($harmonics[0])->toBeLessThan(-80.0);
})->with([
    ['distortion', ['kind' => 'hard', 'drive' => 20.0, 'tone' => 20000.0], 1.0, false, -60.0],
    ['distortion', ['kind' => 'fuzz', 'drive' => 20.0, 'tone' => 20000.0], 1.0, true, -60.0],
    ['distortion', ['kind' => 'fold', 'drive' => 12.0, 'tone' => 20000.0], 1.0, false, -60.0],
    ['tube-stage', ['drive' => 12.0], 0.5, true, -60.0],
    ['tape-stage', ['drive' => 12.0], 0.5, false, -60.0],
    ['console-stage', ['place' => 'bus', 'amount' => 60.0], 0.7, false, -60.0],
    ['console-stage', ['place' => 'channel', 'amount' => 60.0], 0.7, true, -60.0],
    ['amplifier', ['gain' => 20.0], 0.3, true, -60.0],
    ['waveshaper', ['drive' => 6.0, 'point-1' => -70.0, 'point-7' => 70.0], 0.7, false, -60.0],
]);

it('leans the tube further the louder it gets', function (): void {
    $second = static fn (float $amplitude): float => harmonicsOf('tube-stage', ['drive' => 12.0, 'bias' => 0.0, 'lean' => 80.0], $amplitude)[0][0];
    expect($second(0.4))->toBeGreaterThan($second(0.04) + 10.0);
});

it('leaves soft sound as loud as it was', function (string $id, array $parameters): void {
    $in = Signal::sine(1000.0, 48000, 0.001);
    $out = Signal::through(Signal::processor($id, $parameters), $in)->left;
    expect(20 * log10(Signal::rms(array_slice($out, 24000)) / Signal::rms(array_slice($in, 24000))))->toEqualWithDelta(0.0, 0.1);
})->with([['console-stage', []], ['tube-stage', ['drive' => 0.0, 'output' => 0.0]], ['tape-stage', ['drive' => 0.0, 'output' => 0.0]], ['distortion', ['drive' => 0.0, 'output' => 0.0, 'tone' => 20000.0]]]);

// Source: the tape takes back the emphasis it gives: soft sounds see only bump and loss, by scipy.signal.freqz of our impulse response.
it('has the response of a tape when soft', function (): void {
    $out = Signal::through(Signal::processor('tape-stage', ['drive' => 0.0, 'output' => 0.0, 'speed' => '19cm']), Signal::impulse(16384, 1e-4))->left;
    $levels = Reference::python('_, h = sig.freqz(np.array(data["x"])*1e4, 1, [90, 1000, 3200, 11000], fs=48000); print(json.dumps((20*np.log10(np.abs(h))).tolist()))', ['x' => $out]);
    expect($levels[0])->toEqualWithDelta(2.4, 0.3)->and($levels[1])->toEqualWithDelta(0.0, 0.15)->and($levels[2])->toEqualWithDelta(0.0, 0.15)->and($levels[3])->toEqualWithDelta(-3.0, 0.15);
});

it('lets a loudspeaker end where it ends', function (): void {
    foreach (['small' => 6500.0, 'open' => 5500.0, 'stack' => 4800.0, 'bass' => 4000.0] as $cabinet => $end) {
        $out = Signal::through(Signal::processor('amplifier', ['gain' => 0.0, 'cabinet' => $cabinet]), Signal::impulse(16384, 1e-4))->left;
        [$middle, $above] = Reference::python('_, h = sig.freqz(np.array(data["x"])*1e4, 1, [1000, 2*data["e"]], fs=48000); print(json.dumps((20*np.log10(np.abs(h))).tolist()))', ['x' => $out, 'e' => $end]);
        expect($above)->toBeLessThan($middle - 18.0);
    }
});

// Source: arithmetic: steps of 2^(1-bits); a held sample lasts 48000/rate samples.
it('rounds to its word and holds for its rate', function (): void {
    $out = Signal::through(Signal::processor('bit-reducer', ['bits' => 4.0]), Signal::noise(4000, 3, 0.9))->left;
    foreach ($out as $sample) {
        expect(fmod(abs($sample), 0.125))->toBe(0.0);
    }
    $out = Signal::through(Signal::processor('bit-reducer', ['bits' => 24.0, 'rate' => 12000.0]), $in = Signal::noise(4000, 4))->left;
    for ($i = 0; $i < 4000; ++$i) {
        expect($out[$i])->toBe($in[$i - $i % 4]);
    }
});

// Source: Doppler: a delay that swings by D at f bends the pitch by 2 pi f D; the shares are those of the transport, measured by the
// phase of scipy's analytic signal.
it('runs a tape as evenly as its machine', function (string $runs, float $least, float $most): void {
    $out = Signal::through(Signal::processor('tape-stage', ['transport' => $runs, 'drive' => -12.0]), Signal::sine(3150.0, 240_000, 0.2))->left;
    $bent = Reference::python('x = np.array(data)[24000:]; f = np.diff(np.unwrap(np.angle(sig.hilbert(x))))*48000/2/np.pi; b, a = sig.butter(2, 60, fs=48000); f = sig.filtfilt(b, a, f)[9600:-9600]; print(json.dumps(float((f.max()-f.min())/2/3150)))', $out);
    expect($bent)->toBeGreaterThan($least)->toBeLessThan($most);
})->with([['steady', -1.0, 0.00001], ['good', 0.0007, 0.0011], ['worn', 0.0036, 0.0045]]);
