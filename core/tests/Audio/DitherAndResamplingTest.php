<?php

declare(strict_types=1);

use Hafen\Audio\AudioSource;
use Hafen\Audio\Dither;
use Hafen\Audio\Resampler;
use Hafen\Audio\SampleDecoder;
use Hafen\Audio\SampleEncoder;
use Hafen\Audio\SampleFormat;
use Hafen\Tests\Support\MemoryLibrary;
use Hafen\Tests\Support\Reference;
use Hafen\Tests\Support\Signal;

// Source: quantisation theory. TPDF of 2 steps: error power 3/12 step^2, at 16 bit -93.3 dB re a full-scale sine's power.
it('dithers 16 bit to a noise of about -93.3 dB that does not follow the signal', function (): void {
    $encoder = new SampleEncoder(SampleFormat::Int16, new Dither);
    $samples = Signal::sine(997.0, 96000, 0.3);
    $back = SampleDecoder::decode($encoder->encode($samples), SampleFormat::Int16);
    $error = array_map(static fn (float $a, float $b): float => $b - $a, $samples, $back);
    expect(20 * log10(Signal::rms($error) / M_SQRT1_2))->toEqualWithDelta(-93.3, 0.3);
    foreach ([997.0, 1994.0, 2991.0] as $harmonic) {
        expect(Signal::amplitudeAt($error, $harmonic))->toBeLessThan(4e-7);
    }
});

function sourceOf(array $side, int $rate): AudioSource
{
    return (new MemoryLibrary(['x' => [$side]], $rate))->open('x');
}

// Source: the requirement of 0.05 dB to 0.45 fs and images 90 dB down, measured on sines.
it('converts the rate flat to 0.45 fs with images 90 dB down', function (int $from, int $to): void {
    $lower = min($from, $to);
    foreach ([0.02, 0.2, 0.4, 0.45] as $part) {
        $frequency = round($part * $lower / 100) * 100;
        $resampler = new Resampler(sourceOf(Signal::sine($frequency, $from, 1.0, $from), $from), $to);
        $out = $resampler->read(intdiv($to, 4), intdiv($to, 2));
        expect(20 * log10(Signal::amplitudeAt($out[0], $frequency, $to)))->toEqualWithDelta(0.0, 0.05);
        $tone = Signal::amplitudeAt($out[0], $frequency, $to);
        $rest = sqrt(max(0.0, Signal::rms($out[0]) ** 2 - $tone ** 2 / 2));
        expect($rest)->toBeLessThan(10 ** (-90 / 20));
    }
    // The last two have more places between samples than there is room for filters: they are interpolated.
})->with([[44100, 48000], [96000, 48000], [48000, 44100], [48000, 96000], [44101, 48000], [95999, 48000]]);

// Source: scipy.signal.resample_poly with its own, longer filter.
it('agrees with scipy', function (): void {
    $input = Signal::sine(3000.0, 8820, 0.5, 44100);
    $expected = Reference::python(
        'h = sig.firwin(160*2*64+1, 1/160, window=("kaiser", 12.0)); print(json.dumps(sig.resample_poly(np.array(data["x"]), 160, 147, window=h).tolist()))',
        ['x' => $input],
    );
    $out = Resampler::to(sourceOf($input, 44100), 48000)->read(0, 9600)[0];
    for ($i = 1000; $i < 8600; $i += 13) {
        expect($out[$i])->toEqualWithDelta($expected[$i], 2e-5);
    }
});

it('reads the same from any place', function (): void {
    $resampler = new Resampler(sourceOf(Signal::noise(5000), 44100), 48000);
    $whole = $resampler->read(0, 2000)[0];
    expect(array_slice($whole, 701, 300))->toBe($resampler->read(701, 300)[0])
        ->and($resampler->frames())->toBe((int) ceil(5000 * 48000 / 44100));
});

it('takes little memory whatever the rates are', function (int $from, int $to): void {
    $resampler = new Resampler(sourceOf(Signal::noise(60_000), $from), $to);
    $before = memory_get_usage();
    $resampler->read(0, 3000);
    expect(memory_get_usage() - $before)->toBeLessThan(12 << 20);
})->with([[767_999, 48_000], [44_101, 384_000], [768_000, 8_000], [4_001, 383_999]]);
