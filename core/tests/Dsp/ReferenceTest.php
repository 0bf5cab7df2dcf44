<?php

declare(strict_types=1);

use Hafen\Audio\Block;
use Hafen\Dsp\Gain\InterSamplePeaks;
use Hafen\Dsp\Gain\SlidingMinimum;
use Hafen\Dsp\Reverb\Convolver;
use Hafen\Dsp\Reverb\PartitionedConvolution;
use Hafen\Dsp\Reverb\ShoeboxRoom;
use Hafen\Dsp\Saturation\MonotoneCubic;
use Hafen\Dsp\Saturation\RationalTanh;
use Hafen\Dsp\Spectrum\Fft;
use Hafen\Dsp\Spectrum\HannWindow;
use Hafen\Tests\Support\Reference;
use Hafen\Tests\Support\Signal;

/*
 * Building blocks of the processors against numpy and scipy, which were written apart from them.
 */

/**
 * The largest difference of two lists of equal length.
 *
 * @param  array<array-key, float|int>  $ours
 * @param  array<array-key, float|int>  $theirs
 */
function largestDifference(array $ours, array $theirs): float
{
    expect(count($ours))->toBe(count($theirs));

    return max([0.0, ...array_map(static fn (float|int $a, float|int $b): float => abs($a - $b), array_values($ours), array_values($theirs))]);
}

/**
 * Cuts samples into blocks of sizes that come again and again.
 *
 * @param  list<float>  $samples
 * @param  non-empty-list<int<1, max>>  $sizes
 * @return list<list<float>>
 */
function cutInto(array $samples, array $sizes): array
{
    $blocks = [];
    for ($at = $i = 0; $at < count($samples); $at += $size, ++$i) {
        $size = $sizes[$i % count($sizes)];
        $blocks[] = array_slice($samples, $at, $size);
    }

    return $blocks;
}

it('transforms as numpy does, at every length there is', function (int $size): void {
    $real = Signal::noise($size, 1, 1.0);
    $imaginary = Signal::noise($size, 2, 1.0);
    [$re, $im] = (new Fft($size))->transform($real, $imaginary);
    $theirs = Reference::python(<<<'PY'
        x = np.fft.fft(np.array(data['re']) + 1j * np.array(data['im']))
        print(json.dumps([list(x.real), list(x.imag)]))
        PY, ['re' => $real, 'im' => $imaginary]);
    expect(largestDifference($re, $theirs[0]))->toBeLessThan(1e-9)->and(largestDifference($im, $theirs[1]))->toBeLessThan(1e-9);
})->with([2, 8, 64, 1024, 4096]);

it('tells two real sounds apart that go through one transform', function (): void {
    $left = Signal::noise(512, 3, 1.0);
    $right = Signal::sine(1000.0, 512, 0.5);
    $ours = (new Fft(512))->transformTwo($left, $right);
    $theirs = Reference::python(<<<'PY'
        l, r = np.fft.rfft(data['left']), np.fft.rfft(data['right'])
        print(json.dumps([list(l.real), list(l.imag), list(r.real), list(r.imag)]))
        PY, ['left' => $left, 'right' => $right]);
    foreach ($theirs as $i => $part) {
        expect(largestDifference($ours[$i], $part))->toBeLessThan(1e-9);
    }
});

it('has the Hann window of scipy read between its points, and its mean square', function (int $size): void {
    $theirs = Reference::python("print(json.dumps(list(sig.get_window('hann', 2 * data['size'])[1::2])))", ['size' => $size]);
    $window = HannWindow::of($size);
    expect(largestDifference($window, $theirs))->toBeLessThan(1e-12)
        ->and(array_sum(array_map(static fn (float $w): float => $w * $w, $window)) / $size)->toEqualWithDelta(HannWindow::MEAN_SQUARE, 1e-12);
})->with([16, 1024]);

it('convolves block by block as scipy does at once', function (int $length): void {
    $impulse = Signal::noise($length, 4, 0.2);
    $other = Signal::noise($length, 5, 0.2);
    $left = Signal::noise(4096, 6, 1.0);
    $right = Signal::noise(4096, 7, 1.0);
    $convolution = new PartitionedConvolution($impulse, $other, 256);
    $ours = [[], []];
    for ($at = 0; $at < 4096; $at += 256) {
        foreach ($convolution->process(array_slice($left, $at, 256), array_slice($right, $at, 256)) as $side => $samples) {
            array_push($ours[$side], ...$samples);
        }
    }
    $theirs = Reference::python(<<<'PY'
        both = [sig.fftconvolve(data[x], data[h])[:4096] for x, h in (('left', 'impulse'), ('right', 'other'))]
        print(json.dumps([list(side) for side in both]))
        PY, ['left' => $left, 'right' => $right, 'impulse' => $impulse, 'other' => $other]);
    expect(largestDifference($ours[0], $theirs[0]))->toBeLessThan(1e-9)->and(largestDifference($ours[1], $theirs[1]))->toBeLessThan(1e-9);
})->with([1, 255, 256, 257, 1500]);

it('convolves long responses in blocks of any size, late by what it says', function (array $sizes): void {
    // Longer than the first part, so that long blocks take part too.
    $impulse = Signal::noise(20_000, 8, 0.05);
    $sound = Signal::noise(30_000, 9, 1.0);
    $convolver = new Convolver($impulse, $impulse);
    $ours = [];
    foreach (cutInto($sound, $sizes) as $samples) {
        $block = Block::mono($samples);
        $convolver->process($block);
        array_push($ours, ...$block->left);
    }
    $theirs = Reference::python("print(json.dumps(list(sig.fftconvolve(data['x'], data['h'])[:len(data['x'])])))", ['x' => $sound, 'h' => $impulse]);
    expect(Signal::rms(array_slice($ours, 0, Convolver::DELAY)))->toBeLessThan(1e-12)
        ->and(largestDifference(array_slice($ours, Convolver::DELAY), array_slice($theirs, 0, -Convolver::DELAY)))->toBeLessThan(1e-9);
})->with([[[512]], [[1, 7, 333, 4096]], [[1024]]]);

it('starts a convolution anew after a reset, and copies work apart from each other', function (): void {
    $impulse = Signal::noise(9000, 10, 0.1);
    $sound = Signal::noise(6000, 11, 1.0);
    $run = static function (Convolver $convolver, array $samples): array {
        $block = Block::mono($samples);
        $convolver->process($block);

        return $block->left;
    };
    $convolver = new Convolver($impulse, $impulse);
    $first = $run($convolver, $sound);
    $copy = clone $convolver;
    $run($convolver, Signal::noise(3000, 12, 1.0));
    $convolver->reset();
    expect($run($convolver, $sound))->toBe($first);
    // A copy knows the response, and nothing of what the original heard.
    expect($run($copy, $sound))->toBe($first);
});

it('bends a curve through its points as scipy does, and never beyond them', function (): void {
    $points = [-1.0, -0.9, -0.2, -0.2, 0.1, 0.7, 0.65, 1.0];
    $ours = MonotoneCubic::through($points, 16);
    $theirs = Reference::python(<<<'PY'
        from scipy.interpolate import PchipInterpolator
        n = len(data['points'])
        x = np.linspace(0, n - 1, (n - 1) * 16 + 1)
        print(json.dumps(list(PchipInterpolator(np.arange(n), data['points'])(x))))
        PY, ['points' => $points]);
    // Between the second point and the last but one both take the harmonic mean; only the tangents at the ends may differ.
    expect(largestDifference(array_slice($ours, 16, 5 * 16), array_slice($theirs, 16, 5 * 16)))->toBeLessThan(1e-12);
    foreach (array_chunk(array_slice($ours, 0, -1), 16) as $i => $between) {
        expect(min($between))->toBeGreaterThanOrEqual(min($points[$i], $points[$i + 1]) - 1e-12)
            ->and(max($between))->toBeLessThanOrEqual(max($points[$i], $points[$i + 1]) + 1e-12);
    }
});

it('follows the hyperbolic tangent within 2.5 hundredths, and stands at its ends', function (): void {
    $inputs = array_map(static fn (int $i): float => $i / 50.0, range(-300, 300));
    $ours = RationalTanh::bend($inputs);
    $theirs = Reference::python("print(json.dumps(list(np.tanh(data['x']))))", ['x' => $inputs]);
    expect(largestDifference($ours, $theirs))->toBeLessThan(0.025)
        ->and(max($ours))->toBeLessThanOrEqual(1.0)->and(min($ours))->toBeGreaterThanOrEqual(-1.0)
        ->and($ours)->toBe(array_values((static function (array $sorted): array {
            sort($sorted);

            return $sorted;
        })($ours)));
});

it('holds the smallest value of a window as scipy does, in blocks of any size', function (int $window, array $sizes): void {
    $samples = array_map(abs(...), Signal::noise(3000, 13, 1.0));
    $minimum = new SlidingMinimum($window);
    $ours = [];
    foreach (cutInto($samples, $sizes) as $block) {
        array_push($ours, ...$minimum->process($block));
    }
    $theirs = Reference::python(<<<'PY'
        x = np.concatenate([np.ones(data['window'] - 1), data['x']])
        w = data['window']
        print(json.dumps([float(x[i:i + w].min()) for i in range(len(data['x']))]))
        PY, ['x' => $samples, 'window' => $window]);
    expect($ours)->toEqual($theirs);
})->with([1, 2, 5, 64, 237])->with([[[512]], [[1, 3, 100]]]);

it('finds peaks between samples as a resampler of scipy does', function (): void {
    // At a quarter of the rate, an eighth of a turn off, no sample is higher than 0.707 of the wave.
    $samples = array_map(static fn (int $i): float => sin(M_PI / 2 * $i + M_PI / 4) * min(1.0, $i / 500, (4000 - $i) / 500), range(0, 3999));
    $ours = max((new InterSamplePeaks)->process([...$samples, ...array_fill(0, InterSamplePeaks::DELAY, 0.0)]));
    $theirs = Reference::python("print(json.dumps(float(np.max(np.abs(sig.resample_poly(data['x'], 8, 1, window=('kaiser', 12)))))))", ['x' => $samples]);
    expect(max($samples))->toBeLessThan(0.708)
        ->and(20 * log10($ours))->toEqualWithDelta(20 * log10($theirs), 0.1);
});

it('puts the first reflections of a room where its mirrors are', function (): void {
    $size = [5.0, 4.0, 3.0];
    $source = [0.3, 0.4, 0.5];
    $listener = [0.7, 0.6, 0.5];
    $ours = ShoeboxRoom::reflections($size, $source, $listener, 0.8, 6);
    // Every image by brute force: mirrored in each axis, moved by twice the room (Allen and Berkley 1979, equation 8).
    $theirs = Reference::python(<<<'PY'
        size, s, l = (np.array(data[k]) for k in ('size', 'source', 'listener'))
        s, l = s * size, l * size
        direct = np.linalg.norm(s - l)
        times = []
        for n in np.ndindex(5, 5, 5):
            for p in np.ndindex(2, 2, 2):
                m, q = np.array(n) - 2, np.array(p)
                if m.any() or q.any():
                    times.append((np.linalg.norm((1 - 2 * q) * s + 2 * m * size - l) - direct) / 343.0 * 1000)
        print(json.dumps(sorted(times)[:6]))
        PY, ['size' => $size, 'source' => $source, 'listener' => $listener]);
    expect(largestDifference(array_column($ours, 0), $theirs))->toBeLessThan(0.1);
});
