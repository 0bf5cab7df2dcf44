<?php

declare(strict_types=1);

use Hafen\Audio\Block;
use Hafen\Dsp\Gain\InterSamplePeaks;
use Hafen\Metering\TruePeakMeter;

/** @return list<float> tones, noise, clicks and silence, at levels of their own */
function changingSound(int $seed, int $frames): array
{
    mt_srand($seed);
    $random = static fn (): float => mt_rand() / mt_getrandmax();
    $samples = [];
    while (count($samples) < $frames) {
        $level = 10.0 ** (-3.0 * $random());
        $frequency = M_PI * $random() ** 3;
        $kind = mt_rand(0, 4);
        for ($i = 0, $n = mt_rand(1, 700); $i < $n; ++$i) {
            $samples[] = $level * match ($kind) {
                0 => sin($frequency * $i),
                1 => 2.0 * $random() - 1.0,
                2 => $i % 97 === 0 ? 1.0 : 0.0,
                3 => ($i & 1) === 0 ? 1.0 : -1.0,
                default => 0.0,
            };
        }
    }

    return array_slice($samples, 0, $frames);
}

test('leaving out what is too quiet to be the highest place changes nothing', function (int $seed): void {
    $samples = changingSound($seed, 9000);
    $expected = max((new InterSamplePeaks)->process($samples));
    mt_srand($seed);
    $peaks = new InterSamplePeaks;
    $highest = 0.0;
    for ($at = 0; $at < 9000; $at += $count) {
        $count = mt_rand(1, 3) === 1 ? mt_rand(1, 12) : 512;
        $highest = $peaks->highest(array_slice($samples, $at, $count), $highest);
    }

    expect($highest)->toBe($expected);
})->with(range(1, 40));

test('a place that is only just the highest is found', function (int $seed): void {
    $samples = changingSound($seed, 3000);
    $peaks = new InterSamplePeaks;
    $all = (new InterSamplePeaks)->process($samples);
    for ($at = 0; $at < 3000; $at += 100) {
        $highest = max(array_slice($all, $at, 100));
        expect($peaks->highest(array_slice($samples, $at, 100), 0.9999 * $highest))->toBe($highest);
    }
})->with(range(101, 120));

test('the true peak lies on the side where it is, in blocks that are wide and not', function (): void {
    $tone = array_map(static fn (int $i): float => sin(M_PI * ($i / 2.0 + 0.25)), range(0, 511));
    $meter = new TruePeakMeter;
    $meter->measure(Block::mono(array_map(static fn (float $x): float => 0.1 * $x, $tone)));
    $meter->measure(new Block(array_fill(0, 512, 0.0), $tone));

    // A tone at a quarter of the rate, 45 degrees off: its samples lie 3.01 dB below its peak.
    expect(max($tone))->toEqualWithDelta(M_SQRT1_2, 1e-9)
        ->and($meter->level())->toEqualWithDelta(0.0, 0.3);
});
