<?php

declare(strict_types=1);

use Hafen\Audio\Block;
use Hafen\Dsp\Spectrum\Fft;
use Hafen\Metering\CorrelationMeter;
use Hafen\Metering\FlatTops;
use Hafen\Metering\LoudnessMeter;
use Hafen\Metering\LowSpectrumMeter;
use Hafen\Metering\Meter;
use Hafen\Metering\OverRegions;
use Hafen\Metering\OverviewMeter;
use Hafen\Metering\SpectrumMeter;
use Hafen\Metering\TruePeakMeter;
use Hafen\Metering\Window;
use Hafen\Tests\Support\MemoryLibrary;
use Hafen\Tests\Support\Reference;
use Hafen\Tests\Support\Signal;

/** Gives a meter two sides in blocks. @param  list<float>  $left @param  list<float>  $right */
function throughMeter(array $left, array $right, callable $measure, int $size = 512): void
{
    for ($at = 0; $at < count($left); $at += $size) {
        $measure(new Block(array_slice($left, $at, $size), array_slice($right, $at, $size)), $at);
    }
}

/** @param  list<float>  $a @param  list<float>  $b */
function farthest(array $a, array $b): float
{
    return max(array_map(static fn (float $x, float $y): float => abs($x - $y), $a, $b));
}

// Source: numpy.fft.
it('transforms as numpy does', function (int $size): void {
    $real = Signal::noise($size, 1);
    $imaginary = Signal::noise($size, 2);
    [$re, $im] = (new Fft($size))->transform($real, $imaginary);
    [$wantedRe, $wantedIm] = Reference::python(<<<'PY'
        import numpy
        z = np.fft.fft(np.array(data[0]) + 1j * np.array(data[1]))
        print(json.dumps([z.real.tolist(), z.imag.tolist()]))
        PY, [$real, $imaginary]);
    expect(farthest($re, $wantedRe))->toBeLessThan(1e-10)->and(farthest($im, $wantedIm))->toBeLessThan(1e-10);
})->with([2, 4, 8, 64, 512, 1024]);

// Source: half the square of a sine's amplitude is its power.
it('tells each side\'s power by band', function (int $rate): void {
    $left = array_map(static fn (float $a, float $b): float => $a + $b, Signal::sine(80.0, 2 * $rate, 0.5, $rate), Signal::sine(5000.0, 2 * $rate, 0.1, $rate));
    $right = Signal::sine(300.0, 2 * $rate, 0.25, $rate);
    foreach ([[new SpectrumMeter($rate), true], [new LowSpectrumMeter($rate), false]] as [$meter, $isWhole]) {
        throughMeter($left, $right, static fn (Block $block) => $meter->measure($block));
        $spectrum = $meter->read();
        expect($spectrum->between(0.0, 130.0))->toEqualWithDelta(0.5 * 0.125, 0.0015)
            ->and($spectrum->between(200.0, 500.0))->toEqualWithDelta(0.5 * 0.03125, 0.0004);
        if ($isWhole) {
            expect($spectrum->between(0.0, $rate / 2))->toEqualWithDelta(0.5 * (0.125 + 0.005 + 0.03125), 0.001);
        }
        expect($spectrum->after(2.0, 0.0)->between(0.0, 600.0))->toEqualWithDelta(0.5 * 4 * 0.125, 0.005);
    }
})->with([44100, 48000, 96000]);

it('keeps what lies above out of the low spectrum', function (int $rate, float $frequency): void {
    $meter = new LowSpectrumMeter($rate);
    $high = array_map(static fn (float $x, int $i): float => $x * min(1.0, $i / (0.2 * $rate)), Signal::sine($frequency, 2 * $rate, 1.0, $rate), range(0, 2 * $rate - 1));
    throughMeter($high, $high, static fn (Block $block) => $meter->measure($block));
    expect(10 * log10(max(1e-12, $meter->read()->between(50.0, 590.0)) / 0.5))->toBeLessThan(-60.0);
})->with([
    // Each is one that thinning to one of its rates would fold back below 600 Hz.
    'last rate' => [48000, 2700.0], 'first rate' => [48000, 11700.0], 'twice that' => [48000, 23600.0], 'its edge' => [48000, 11420.0],
    '44.1 kHz' => [44100, 10500.0], '96 kHz' => [96000, 23450.0], '192 kHz' => [192000, 11450.0], '22.05 kHz' => [22050, 10700.0],
]);

it('reads the low spectrum the same in blocks of any length', function (): void {
    $sound = Signal::noise(30000, 8);
    $spectra = [];
    foreach ([512, 333, 1] as $size) {
        $meter = new LowSpectrumMeter(48000);
        throughMeter($sound, array_reverse($sound), static fn (Block $block) => $meter->measure($block), $size);
        $spectra[] = $meter->read();
    }
    expect($spectra[1])->toEqual($spectra[0])->and($spectra[2])->toEqual($spectra[0]);
});

// Source: white noise has the same power in each hertz.
it('reads the low spectrum as flat where it is', function (): void {
    $meter = new LowSpectrumMeter(48000);
    $whole = new SpectrumMeter(48000);
    $noise = Signal::noise(960_000, 4);
    throughMeter($noise, $noise, static function (Block $block) use ($meter, $whole): void {
        $meter->measure($block);
        $whole->measure($block);
    });
    foreach ([[40.0, 200.0], [200.0, 400.0], [400.0, 580.0]] as [$from, $to]) {
        expect(10 * log10($meter->read()->between($from, $to) / $whole->read()->between($from, $to)))->toEqualWithDelta(0.0, 0.15);
    }
});

it('reads silence that is marked as it reads silence', function (): void {
    $sound = Signal::noise(48000, 6, 1.4);
    $readings = [];
    foreach ([true, false] as $isMarked) {
        $meters = [new LoudnessMeter(48000), new TruePeakMeter, new CorrelationMeter, new LowSpectrumMeter(48000), $level = new Meter];
        $level->limitTo(new Window(300, 300_000));
        for ($at = 0; $at < 300_000; $at += 500) {
            // A second of sound, four of silence: filters ring out in them.
            $isSilent = $at % 240_000 >= 48_000;
            $block = $isSilent ? ($isMarked ? Block::silent(500) : Block::mono(array_fill(0, 500, 0.0))) : new Block(array_slice($sound, $at % 240_000, 500), array_slice($sound, 47_000 - $at % 240_000 + 500, 500));
            foreach ($meters as $meter) {
                $meter instanceof Meter ? $meter->measure($block, $at) : $meter->measure($block);
            }
        }
        $readings[] = array_map(static fn (object $meter): mixed => $meter instanceof TruePeakMeter ? $meter->level() : $meter->read(), $meters);
    }
    expect($readings[0])->toEqual($readings[1]);
});

it('reads the correlation of two sides', function (array $left, array $right, ?float $expected): void {
    $meter = new CorrelationMeter;
    throughMeter($left, $right, static fn (Block $block) => $meter->measure($block));
    expect($meter->read())->toEqualWithDelta($expected, 0.02);
})->with([
    'the same' => [Signal::noise(20000, 1), Signal::noise(20000, 1), 1.0],
    'turned over and quieter' => [Signal::noise(20000, 1), array_map(static fn (float $x): float => -0.1 * $x, Signal::noise(20000, 1)), -1.0],
    'apart' => [Signal::noise(20000, 1), Signal::noise(20000, 9001), 0.0],
    'a quarter of a period' => [Signal::sine(1000.0, 48000), Signal::sine(1000.0, 48000, 1.0, 48000, M_PI / 2), 0.0],
    'one side' => [Signal::noise(2000, 1), array_fill(0, 2000, 0.0), null],
]);

it('says where a sound goes over, near places as one', function (): void {
    $left = array_fill(0, 48000, 0.0);
    $right = $left;
    foreach ([1000 => 1.5, 1010 => -2.0, 5000 => 1.1, 30000 => 1.2] as $at => $value) {
        $left[$at] = $value;
    }
    $right[5001] = -1.3;
    $right[40000] = 1.0;
    $regions = new OverRegions(48000);
    $meter = new Meter;
    $meter->limitTo(new Window(0, 48000));
    throughMeter($left, $right, static function (Block $block, int $at) use ($regions, $meter): void {
        $regions->measure($block, $at);
        $meter->measure($block, $at);
    });
    expect(array_map(static fn ($region): array => [$region->from, $region->to, $region->samples, $region->peak], $regions->regions()))
        ->toBe([[1000, 5002, 4, 2.0], [30000, 30001, 1, 1.2]])
        ->and($regions->samples())->toBe(5);
    $reading = $meter->read();
    expect([$reading->peak, $reading->peakAt, $reading->firstOver, $reading->overs])->toBe([2.0, 1010, 1000, 5]);
});

it('shows from afar what the highest samples are', function (): void {
    $meter = new OverviewMeter(100, 1100, 7);
    $samples = Signal::noise(1000, 5);
    throughMeter($samples, array_fill(0, 1000, 0.0), static fn (Block $block, int $at) => $meter->measure($block, 100 + $at), 64);
    $expected = array_fill(0, 7, 0.0);
    foreach ($samples as $i => $sample) {
        $expected[intdiv($i * 7, 1000)] = max($expected[intdiv($i * 7, 1000)], abs($sample));
    }
    expect($meter->read())->toBe($expected);
});

it('tells a clipped recording from a loud one', function (array $samples, array $found): void {
    $file = (new MemoryLibrary(['x' => [$samples]]))->open('x');
    expect(FlatTops::in($file, 0, count($samples)))->toBe($found);
})->with([
    'cut at full scale' => [array_map(static fn (float $x): float => max(-1.0, min(32767 / 32768, $x)), Signal::sine(480.0, 200, 1.5)), [12, 62, 112, 162]],
    'just there' => [[0.0, 0.9, 1.0, 1.0, 0.9, 0.0], []],
    'beyond, as floating point can be' => [Signal::sine(480.0, 200, 1.5), []],
    'flat but quiet' => [array_fill(0, 100, 0.5), []],
]);

it('finds the noise floor in the quietest range that is not silent', function (): void {
    $meter = new Hafen\Metering\Meter;
    $meter->limitTo(new Hafen\Metering\Window(0, 96000));
    $noise = Signal::noise(96000, 9, 1.0);
    $level = static fn (int $i): float => $i < 32768 ? 0.5 : ($i < 65536 ? 0.001 : 0.0);
    $sound = array_map(static fn (float $x, int $i): float => $x * $level($i), $noise, array_keys($noise));
    throughMeter($sound, $sound, static fn (Block $block, int $at) => $meter->measure($block, $at));
    // What is loud does not count, nor what is silent.
    $quiet = Signal::rms(array_slice($sound, 32768, 32768));
    expect($meter->read()->floorLevel())->toEqualWithDelta(20 * log10($quiet), 0.3);
    $meter->measure(new Block(array_fill(0, 16384, 0.0), [], true), 0);
    expect($meter->read()->floorLevel())->toBeNull();
});
