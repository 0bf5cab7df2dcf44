<?php

declare(strict_types=1);

use Hafen\Audio\Block;
use Hafen\Dsp\Reverb\Convolver;
use Hafen\Dsp\Reverb\ShoeboxRoom;
use Hafen\Processor\AudioFiles;
use Hafen\Processor\ProcessorCatalogue;
use Hafen\Processor\Setting;
use Hafen\Tests\Support\Reference;
use Hafen\Tests\Support\Signal;

const T30 = <<<'PYTHON'
    sos = sig.butter(3, data["band"], "bandpass", fs=48000, output="sos")
    def t30(x):
        e = np.cumsum(sig.sosfilt(sos, np.array(x))[::-1]**2)[::-1]; d = 10*np.log10(e/e[0]+1e-30)
        a, b = np.argmax(d < -5), np.argmax(d < -35)
        return -60/np.polyfit(np.arange(a, b)/48000, d[a:b], 1)[0]
    print(json.dumps([float(t30(x)) for x in data["x"]]))
    PYTHON;

// Source: ISO 3382, Schroeder 1965: T30 by backward integration, octave around 1 kHz (filter: scipy.signal.butter), within 10 %.
it('dies away in the time set', function (string $id, float $decay, float $size): void {
    $length = (int) (48000 * ($decay * 1.2 + 0.3));
    $out = Signal::through(Signal::processor($id, ['decay' => $decay, 'size' => $size, 'early' => 0.0, 'damping' => 20000.0, 'high-cut' => 20000.0, 'movement' => 100.0]), Signal::impulse($length), blockSize: 4096);
    foreach (Reference::python(T30, ['x' => [$out->left, $out->right], 'band' => [707, 1414]]) as $measured) {
        expect($measured)->toEqualWithDelta($decay, 0.1 * $decay);
    }
})->with([['room', 0.4, 100.0], ['room', 1.2, 70.0], ['hall', 2.0, 100.0], ['hall', 4.5, 150.0], ['plate', 1.0, 100.0], ['plate', 3.0, 60.0]]);

it('has springs that die away in the time set', function (float $decay): void {
    $out = Signal::through(Signal::processor('spring', ['decay' => $decay, 'damping' => 5000.0]), Signal::impulse((int) (48000 * ($decay * 1.2 + 0.3))), blockSize: 4096);
    foreach (Reference::python(T30, ['x' => [$out->left, $out->right], 'band' => [300, 600]]) as $measured) {
        expect($measured)->toEqualWithDelta($decay, 0.15 * $decay);
    }
})->with([1.0, 3.0]);

it('drips: the highest frequencies of a spring come last', function (): void {
    // The first pass of the left spring alone.
    $out = Signal::through(Signal::processor('spring', ['width' => 100.0]), Signal::impulse(4800))->left;
    [$low, $high] = Reference::python('x = np.array(data["x"])[:1900]; e = [np.abs(sig.hilbert(sig.filtfilt(*sig.butter(2, b, "bandpass", fs=48000), x))) for b in ([500, 900], [4300, 4900])]; print(json.dumps([int(np.argmax(y)) for y in e]))', ['x' => $out]);
    expect($high - $low)->toBeGreaterThan(100);
});

// Source: J. B. Allen, D. A. Berkley, JASA 1979: the first image of a wall lies as far behind it as the source before it.
it('mirrors the source in the walls', function (): void {
    $reflections = ShoeboxRoom::reflections([10.0, 8.0, 6.0], [0.5, 0.5, 0.5], [0.5, 0.25, 0.5], 0.7, 20);
    // Direct: 2 m. The wall behind the listener (y = 0): the image at -4 m is 6 m away, 4 m more. Floor and ceiling: hypot(2, 6).
    expect($reflections[0][0])->toEqualWithDelta(1000 * 4.0 / 343.0, 1e-9)
        ->and($reflections[1][0])->toEqualWithDelta(1000 * (hypot(2.0, 6.0) - 2.0) / 343.0, 1e-9)
        ->and(hypot($reflections[0][1], $reflections[0][2]))->toEqualWithDelta(0.7 * 2.0 / 6.0, 1e-9);
});

it('puts the first reflections where the room says', function (): void {
    $out = Signal::through(Signal::processor('hall', ['pre-delay' => 10.0, 'early' => 100.0, 'low-cut' => 20.0, 'high-cut' => 20000.0]), Signal::impulse(9600))->left;
    $first = (int) round(48 * (10.0 + ShoeboxRoom::reflections([24.0, 32.0, 13.0], [0.46, 0.2, 0.2], [0.55, 0.55, 0.15], 0.8, 1)[0][0]));
    expect(Signal::peak(array_slice($out, 0, $first - 40)))->toBeLessThan(1e-3)->and(Signal::peak(array_slice($out, $first - 2, 6)))->toBeGreaterThan(0.05);
});

// Source: scipy.signal.fftconvolve.
it('convolves as scipy does', function (int $length): void {
    $left = Signal::noise($length, 51);
    $right = Signal::noise($length, 52);
    $convolver = new Convolver($left, $right);
    $x = Signal::noise(12000, 53);
    $y = Signal::noise(12000, 54);
    $out = new Block([], []);
    for ($at = 0; $at < 12000; $at += 300) {
        $block = new Block(array_slice($x, $at, 300), array_slice($y, $at, 300));
        $convolver->process($block);
        $out->left = [...$out->left, ...$block->left];
        $out->right = [...$out->right, ...$block->right];
    }
    $worst = Reference::python('d = data; e = [np.max(np.abs(np.array(d[o])[512:] - sig.fftconvolve(d[i], d[h])[:12000-512])) for o, i, h in (("ol", "x", "l"), ("or", "y", "r"))]; print(json.dumps([float(v) for v in e]))', ['ol' => $out->left, 'or' => $out->right, 'x' => $x, 'y' => $y, 'l' => $left, 'r' => $right]);
    expect(max($worst))->toBeLessThan(1e-9);
})->with([1, 500, 4096, 4097, 9000]);

it('works with a recording of its own', function (): void {
    $recordings = new class implements AudioFiles
    {
        public function has(string $file): bool
        {
            return $file === 'clap.wav';
        }

        public function read(string $file, int $sampleRate, int $longest): ?array
        {
            return $file === 'clap.wav' ? [[0.0, 0.0, 2.0], [0.0, 2.0, 0.0]] : null;
        }
    };
    $make = static fn (string $file): Block => Signal::through(
        ProcessorCatalogue::standard()->make('convolution', ['response' => 'own', 'recording' => $file, 'low-cut' => 20.0, 'high-cut' => 20000.0], new Setting(48000, 120.0, $recordings)),
        Signal::impulse(2048),
    );
    $out = $make('clap.wav');
    $late = static fn (array $samples): int => (int) array_search(max($samples), $samples, true);
    expect($late($out->left))->toBe(512 + 2)->and($late($out->right))->toBe(512 + 1)->and($late($make('missing.wav')->left))->toBe(512);
});

it('has made-up rooms that die away as they say', function (string $response, float $decay): void {
    $out = Signal::through(Signal::processor('convolution', ['response' => $response, 'low-cut' => 20.0, 'high-cut' => 20000.0]), Signal::impulse((int) (48000 * ($decay + 0.6))), blockSize: 4096);
    foreach (Reference::python(T30, ['x' => [$out->left, $out->right], 'band' => [707, 1414]]) as $measured) {
        expect($measured)->toEqualWithDelta($decay, 0.1 * $decay);
    }
})->with([['chapel', 2.6], ['wooden-studio', 0.42], ['concert-hall', 2.1]]);

it('delays each side by its milliseconds', function (): void {
    $out = Signal::through(Signal::processor('micro-delay', ['left' => 5.0, 'right' => 12.5, 'inverted' => 'right']), Signal::impulse(2000));
    expect($out->left[240])->toBe(1.0)->and($out->right[600])->toBe(-1.0)->and(array_sum(array_map(abs(...), $out->left)))->toBe(1.0);
});

it('wavers as a tape does and bends what goes round', function (): void {
    $pitch = static fn (array $parameters): float => Reference::python('x = np.array(data["x"])[24000:]; f = np.diff(np.unwrap(np.angle(sig.hilbert(x))))*48000/2/np.pi; f = f[2000:-2000]; print(json.dumps(float(1200*np.log2(f.max()/f.min()))))', ['x' => Signal::through(Signal::processor('echo', ['unit' => 'ms', 'time' => 100.0, 'feedback' => 0.0, ...$parameters]), Signal::sine(1000.0, 120_000))->left]);
    expect($pitch([]))->toBeLessThan(0.1)->and($pitch(['wow' => 50.0]))->toBeGreaterThan(10.0);
    $loud = static fn (float $saturation): float => Signal::peak(array_slice(Signal::through(Signal::processor('echo', ['unit' => 'ms', 'time' => 20.0, 'feedback' => 95.0, 'saturation' => $saturation, 'damping' => 20000.0]), Signal::sine(500.0, 96000))->left, 48000));
    expect($loud(100.0))->toBeLessThan(0.5 * $loud(0.0));
});

// Source: the lines of numpy's spectrum that are no harmonics: what the tape in the loop folds back. Above 10 kHz the loop's damping leaves
// less to bend than its harmonics would need.
it('folds nothing back that could be heard, however hard its tape is driven', function (float $frequency): void {
    $out = Signal::through(Signal::processor('echo', ['unit' => 'ms', 'time' => 50.0, 'feedback' => 70.0, 'saturation' => 100.0]), Signal::sine($frequency, 96_000, 0.7))->left;
    $worst = Reference::python(<<<'PY'
        y = np.array(data["x"])[-48000:]*np.blackman(48000); s = np.abs(np.fft.rfft(y)); f = np.fft.rfftfreq(48000, 1/48000)
        near = np.any([np.abs(f - h*data["f"]) < 8 for h in range(1, int(24000/data["f"]) + 1)], axis=0)
        print(json.dumps(float(20*np.log10(np.max(s[~near])/np.max(s)))))
        PY, ['x' => $out, 'f' => $frequency]);
    expect($worst)->toBeLessThan($frequency > 9000.0 ? -50.0 : -80.0);
})->with([3007.0, 5007.0, 7007.0, 10_007.0]);
