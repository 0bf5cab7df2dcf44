<?php

declare(strict_types=1);

use Hafen\Audio\Block;
use Hafen\Dsp\Filter\BiquadCascade;
use Hafen\Dsp\Filter\BiquadCoefficients;
use Hafen\Dsp\Filter\Butterworth;
use Hafen\Dsp\Saturation\Oversampler;
use Hafen\Tests\Support\Reference;
use Hafen\Tests\Support\Signal;

/** Fifty frequencies, evenly on a logarithmic scale. @return list<float> */
function fiftyFrequencies(int $rate): array
{
    return array_map(static fn (int $i): float => 20.0 * (0.48 * $rate / 20.0) ** ($i / 49), range(0, 49));
}

// Source: W3C "Audio EQ Cookbook" (coefficients) and scipy.signal.freqz (magnitude of those coefficients).
it('has the magnitude of the cookbook at 50 frequencies and three rates', function (): void {
    [$f, $q, $gain] = [1234.0, 1.3, 5.5];
    $rates = [44100, 48000, 96000];
    $reference = Reference::python(<<<'PYTHON'
        def shapes(rate):
            w0 = 2*np.pi*data["f"]/rate; c = np.cos(w0); al = np.sin(w0)/(2*data["q"]); A = 10**(data["gain"]/40); r = 2*np.sqrt(A)*al
            return {
                "peaking": ([1+al*A, -2*c, 1-al*A], [1+al/A, -2*c, 1-al/A]),
                "lowShelf": ([A*((A+1)-(A-1)*c+r), 2*A*((A-1)-(A+1)*c), A*((A+1)-(A-1)*c-r)], [(A+1)+(A-1)*c+r, -2*((A-1)+(A+1)*c), (A+1)+(A-1)*c-r]),
                "highShelf": ([A*((A+1)+(A-1)*c+r), -2*A*((A-1)+(A+1)*c), A*((A+1)+(A-1)*c-r)], [(A+1)-(A-1)*c+r, 2*((A-1)-(A+1)*c), (A+1)-(A-1)*c-r]),
                "highPass": ([(1+c)/2, -(1+c), (1+c)/2], [1+al, -2*c, 1-al]),
                "lowPass": ([(1-c)/2, 1-c, (1-c)/2], [1+al, -2*c, 1-al]),
                "bandPass": ([al, 0, -al], [1+al, -2*c, 1-al]),
                "notch": ([1, -2*c, 1], [1+al, -2*c, 1-al]),
                "allPass": ([1-al, -2*c, 1+al], [1+al, -2*c, 1-al]),
            }
        def levels(b, a, at, rate):
            return (20*np.log10(np.abs(sig.freqz(b, a, worN=np.array(at)*2*np.pi/rate)[1])+1e-12)).tolist()
        print(json.dumps({rate: {name: levels(b, a, at, int(rate)) for name, (b, a) in shapes(int(rate)).items()} for rate, at in data["at"].items()}))
        PYTHON, ['f' => $f, 'q' => $q, 'gain' => $gain, 'at' => array_combine($rates, array_map(fiftyFrequencies(...), $rates))]);
    foreach ($rates as $rate) {
        expect($reference[$rate])->toHaveCount(8);
        foreach ($reference[$rate] as $shape => $levels) {
            $ours = str_contains($shape, 'helf') || $shape === 'peaking'
                ? BiquadCoefficients::{$shape}($f, $q, $gain, $rate)
                : BiquadCoefficients::{$shape}($f, $q, $rate);
            foreach (fiftyFrequencies($rate) as $i => $frequency) {
                expect(20 * log10($ours->magnitude($frequency, $rate) + 1e-12))->toEqualWithDelta($levels[$i], 0.01, "{$shape} at {$frequency} Hz, rate {$rate}");
            }
        }
    }
});

// Source: scipy.signal.butter.
it('has Butterworth slopes of every order', function (): void {
    $at = [50.0, 250.0, 500.0, 1000.0, 5000.0];
    $reference = Reference::python(
        'print(json.dumps({k: [(20*np.log10(np.abs(sig.sosfreqz(sig.butter(n, 500, k.lower(), fs=48000, output="sos"), worN=np.array(data["at"]), fs=48000)[1])+1e-15)).tolist() for n in range(1, 9)] for k in ["highPass", "lowPass"]}))',
        ['at' => $at],
    );
    foreach ($reference as $kind => $orders) {
        foreach ($orders as $index => $levels) {
            $sections = Butterworth::{$kind}(500.0, $index + 1, 48000);
            foreach ($at as $i => $frequency) {
                $magnitude = array_product(array_map(static fn (BiquadCoefficients $s): float => $s->magnitude($frequency, 48000), $sections));
                expect(20 * log10($magnitude + 1e-15))->toEqualWithDelta($levels[$i], 0.01);
            }
            expect($levels[2])->toEqualWithDelta(-3.01, 0.01);
        }
    }
});

// Source: scipy.signal.sosfilt on the same coefficients: one, two, four and seven sections use every loop there is.
it('filters noise sample by sample as scipy does', function (int $count): void {
    $named = $rows = [];
    for ($i = 0; $i < $count; ++$i) {
        $section = BiquadCoefficients::peaking(80.0 * 2 ** $i, 0.9, $i % 2 === 0 ? 6.0 : -4.0, 48000);
        $named["s{$i}"] = $section;
        $rows[] = [$section->b0, $section->b1, $section->b2, 1.0, $section->a1, $section->a2];
    }
    $left = Signal::noise(3000, 5);
    $right = Signal::noise(3000, 6);
    $expected = Reference::python('print(json.dumps([sig.sosfilt(np.array(data["sos"]), x).tolist() for x in data["x"]]))', ['sos' => $rows, 'x' => [$left, $right]]);
    $cascade = new BiquadCascade;
    $cascade->set($named);
    $out = new Block([], []);
    foreach ([700, 64, 2236] as $length) {
        $block = new Block(array_slice($left, count($out->left), $length), array_slice($right, count($out->right), $length));
        $cascade->process($block);
        $out->left = [...$out->left, ...$block->left];
        $out->right = [...$out->right, ...$block->right];
    }
    foreach ([0, 1, 2, 699, 700, 1500, 2999] as $i) {
        expect($out->left[$i])->toEqualWithDelta($expected[0][$i], 1e-12)->and($out->right[$i])->toEqualWithDelta($expected[1][$i], 1e-12);
    }
})->with([1, 2, 4, 7]);

it('falls to nothing after sound, and never lingers among the denormals', function (): void {
    $cascade = new BiquadCascade;
    $cascade->set(['a' => BiquadCoefficients::highPass(80.0, 0.7, 48000), 'b' => BiquadCoefficients::peaking(200.0, 2.0, 6.0, 48000)]);
    $block = Block::mono(Signal::noise(4800));
    $cascade->process($block);
    $least = INF;
    for ($i = 0; $i < 100; ++$i) {
        $block = Block::mono(array_fill(0, 24000, 0.0));
        $cascade->process($block);
        $least = min($least, ...array_filter(array_map(abs(...), array_slice($block->left, -100)), static fn (float $x): bool => $x > 0.0) ?: [INF]);
    }
    expect(Signal::peak($block->left))->toBeLessThan(1e-290)->and($least)->toBeGreaterThan(2.3e-308);
});

it('goes to four times the rate and back flat, late by what it says', function (): void {
    foreach ([100.0, 5000.0, 15000.0] as $frequency) {
        $oversampler = new Oversampler;
        $in = Signal::sine($frequency, 9600);
        $out = $oversampler->down($oversampler->up($in));
        for ($i = 2000; $i < 9600; $i += 61) {
            expect($out[$i])->toEqualWithDelta($in[$i - Oversampler::DELAY], 0.002);
        }
    }
});
