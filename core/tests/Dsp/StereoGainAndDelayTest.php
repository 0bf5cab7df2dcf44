<?php

declare(strict_types=1);

use Hafen\Audio\Block;
use Hafen\Audio\Samples;
use Hafen\Dsp\Delay\DelayLine;
use Hafen\Dsp\Filter\LinkwitzRiley;
use Hafen\Dsp\Gain\StereoGain;
use Hafen\Tests\Support\Signal;

/** Runs a signal through something in blocks of a size. @return list<float> the left side */
function inBlocks(array $samples, int $size, callable $work): array
{
    $out = [];
    foreach (array_chunk($samples, $size) as $n => $chunk) {
        $block = Block::mono($chunk);
        $work($block, $n);
        array_push($out, ...$block->left);
    }

    return $out;
}

it('delays by exactly so many samples, in blocks of any size', function (int $length, int $size): void {
    $noise = Signal::noise(3000, 7);
    $line = new DelayLine($length);
    $out = inBlocks($noise, $size, static fn (Block $block) => $line->process($block));
    expect($out)->toBe(array_slice([...array_fill(0, $length, 0.0), ...$noise], 0, 3000));
})->with([0, 1, 27, 600, 2500])->with([16, 512]);

it('fades from one delay to another, both ways, and then is exact', function (int $from, int $to): void {
    $sine = Signal::sine(150.0, 6000, 0.5);
    $line = new DelayLine($from);
    $out = inBlocks($sine, 500, static function (Block $block, int $n) use ($line, $to): void {
        if ($n === 4) {
            $line->resize($to);
        }
        $line->process($block);
    });
    for ($i = max($from, 1) + 1; $i < 6000; ++$i) {
        expect(abs($out[$i] - $out[$i - 1]))->toBeLessThan(0.03);
    }
    for ($i = 4500; $i < 6000; ++$i) {
        expect($out[$i])->toBe($sine[$i - $to]);
    }
})->with([[0, 60], [60, 0], [60, 200], [200, 60]]);

it('does not fade a delay nothing has gone through yet', function (): void {
    $line = new DelayLine(10);
    $line->resize(3);
    expect($line->changing())->toBeFalse();
    $out = inBlocks([1.0, 0.0, 0.0, 0.0, 0.0], 5, static fn (Block $block) => $line->process($block));
    expect($out)->toBe([0.0, 0.0, 0.0, 1.0, 0.0]);
});

it('keeps a mono block mono while both gains are one, and widens it when they are not', function (): void {
    $gain = new StereoGain(1.0, 48000);
    $gain->towards(0.5, 0.5);
    $block = Block::mono(array_fill(0, 2000, 1.0));
    $gain->process($block);
    expect($block->mono)->toBeTrue()->and($block->left[1999])->toBe(0.5)->and($gain->moving())->toBeFalse();
    $gain->towards(0.5, 0.25);
    $block = Block::mono(array_fill(0, 2000, 1.0));
    $gain->process($block);
    expect($block->mono)->toBeFalse()->and($block->left[1999])->toBe(0.5)->and($block->right[1999])->toBe(0.25);
});

it('gives a sum the same parts whether it moves or not', function (): void {
    $gain = new StereoGain(0.3, 48000);
    $gain->towards(0.3, 0.6);
    $gain->settle();
    $block = new Block(Signal::noise(64, 1), Signal::noise(64, 2));
    [[$left, $a], [$right, $b]] = $gain->parts($block);
    expect([$a, $b])->toBe([0.3, 0.6])->and($left)->toBe($block->left)->and($right)->toBe($block->right);
    expect($gain->parts(Block::mono([1.0]))[1])->toBe([[1.0], 0.6]);
    $gain->towards(0.3, 0.3);
    $gain->settle();
    // The same on both sides is said once.
    expect($gain->parts(Block::mono([1.0])))->toBe([[[1.0], 0.3], null]);
    $gain->towards(0.0, 0.0);
    [[$left, $a], [$right, $b]] = $gain->parts($block);
    expect([$a, $b])->toBe([1.0, 1.0])->and(abs($left[0]))->toBeLessThan(0.3 * abs($block->left[0]) + 1e-9);
});

it('sums any number of parts to the bit as one after the other', function (int $count): void {
    $parts = [];
    $expected = Signal::noise(100, 99);
    $sum = $expected;
    for ($k = 0; $k < $count; ++$k) {
        $parts[] = [Signal::noise(100, $k), 0.1 * ($k + 1)];
        foreach ($expected as $i => $sample) {
            $expected[$i] = $sample + $parts[$k][1] * $parts[$k][0][$i];
        }
    }
    expect(Samples::addAllScaled($sum, $parts))->toBe($expected);
})->with([0, 1, 3, 4, 5, 8, 11]);

it('takes mid and side apart and puts them together', function (): void {
    [$left, $right] = [Signal::noise(50, 3), Signal::noise(50, 4)];
    [$mid, $side] = [Samples::mid($left, $right), Samples::side($left, $right)];
    foreach ($left as $i => $sample) {
        expect($mid[$i] + $side[$i])->toEqualWithDelta($sample, 1e-15)->and($mid[$i] - $side[$i])->toEqualWithDelta($right[$i], 1e-15);
    }
});

it('gives every band of a crossover the same turns', function (): void {
    foreach ([1, 2, 3] as $count) {
        $crossovers = array_slice([200.0, 1000.0, 5000.0], 0, $count);
        foreach (range(0, $count) as $band) {
            $sections = array_keys(LinkwitzRiley::band($band, $crossovers, 48000));
            // Two sections for each crossover at its edge, two for each below it, one turn for each above it.
            expect(count(array_filter($sections, static fn (string $name): bool => str_starts_with($name, 'high'))))->toBe(2 * $band)
                ->and(count(array_filter($sections, static fn (string $name): bool => str_starts_with($name, 'low'))))->toBe($band < $count ? 2 : 0)
                ->and(count(array_filter($sections, static fn (string $name): bool => str_starts_with($name, 'turn'))))->toBe(max(0, $count - $band - 1));
        }
    }
});
