<?php

declare(strict_types=1);

use Hafen\Audio\Block;
use Hafen\Audio\Decibel;
use Hafen\Dsp\Filter\BiquadCoefficients;
use Hafen\Dsp\Saturation\SaturationStage;
use Hafen\Dsp\Saturation\Saturator;
use Hafen\Tests\Support\Signal;

/**
 * A stage that runs over a signal in blocks.
 *
 * @param  list<float>  $left
 * @param  ?list<float>  $right
 */
function staged(SaturationStage $stage, Closure $curve, array $left, ?array $right = null, int $size = 512, ?Closure $lead = null): Block
{
    $out = new Block([], [], $right === null);
    for ($at = 0, $n = count($left); $at < $n; $at += $size) {
        $block = $right === null ? Block::mono(array_slice($left, $at, $size)) : new Block(array_slice($left, $at, $size), array_slice($right, $at, $size));
        $stage->process($block, $curve, $lead);
        $out->left = [...$out->left, ...$block->left];
        $out->right = $right === null ? [] : [...$out->right, ...$block->right];
    }

    return $out;
}

$straight = static fn (array $samples): array => $samples;

it('is a plain delay with a straight curve, at either rate', function (bool $isTwice) use ($straight): void {
    $sine = Signal::sine(997.0, 9600, 0.5);
    $out = staged(new SaturationStage(48000, $isTwice), $straight, $sine)->left;
    $delay = Saturator::delay($isTwice);
    for ($i = 2000; $i < 9000; $i += 7) {
        expect($out[$i])->toEqualWithDelta($sine[$i - $delay], 2e-4);
    }
})->with([false, true]);

it('puts its gains and filters where they belong', function (): void {
    $sine = Signal::sine(1000.0, 9600, 0.1);
    $peak = static fn (array $samples): float => max(array_map(abs(...), array_slice($samples, 4800)));
    $stage = new SaturationStage(48000);
    $stage->level(12.0, -6.0);
    $seen = [];
    $out = staged($stage, static function (array $samples) use (&$seen): array {
        $seen[] = max(array_map(abs(...), $samples));

        return $samples;
    }, $sine)->left;
    // 12 dB come before the curve, 6 dB go after it.
    expect(Decibel::fromGain(max(array_slice($seen, 8)) / 0.1))->toEqualWithDelta(12.0, 0.05)
        ->and(Decibel::fromGain($peak($out) / 0.1))->toEqualWithDelta(6.0, 0.05);

    $low = BiquadCoefficients::lowPass(500.0, M_SQRT1_2, 48000);
    $expected = 20 * log10($low->magnitude(1000.0, 48000));
    foreach ([[['low' => $low], []], [[], ['low' => $low]]] as $where => [$before, $after]) {
        $stage = new SaturationStage(48000);
        $stage->filter($before, $after);
        $seen = [];
        $out = staged($stage, static function (array $samples) use (&$seen): array {
            $seen[] = max(array_map(abs(...), $samples));

            return $samples;
        }, $sine)->left;
        expect(20 * log10($peak($out) / 0.1))->toEqualWithDelta($expected, 0.05)
            ->and(20 * log10(max(array_slice($seen, 8)) / 0.1))->toEqualWithDelta($where === 0 ? $expected : 0.0, 0.05);
    }
});

it('sounds the same in blocks of any size, mono or on both sides', function (): void {
    $curve = static fn (array $samples): array => array_map(static fn (float $x): float => tanh($x), $samples);
    $noise = Signal::noise(4001, 7, 0.8);
    $make = static function (): SaturationStage {
        $stage = new SaturationStage(44100);
        $stage->level(9.0, -3.0);
        $stage->filter(['tight' => BiquadCoefficients::highPass(90.0, M_SQRT1_2, 44100)], ['tone' => BiquadCoefficients::lowPass(6000.0, M_SQRT1_2, 44100)]);

        return $stage;
    };
    $mono = staged($make(), $curve, $noise);
    foreach ([1, 37, 512, 4001] as $size) {
        $stereo = staged($make(), $curve, $noise, $noise, $size);
        expect($stereo->left)->toBe($mono->left)->and($stereo->right)->toBe($mono->left);
    }
});

it('lets the lead change what goes into the curve, after the input gain', function () use ($straight): void {
    $stage = new SaturationStage(48000);
    $stage->level(6.0, 0.0);
    $levels = [];
    staged($stage, $straight, array_fill(0, 1024, 0.25), lead: static function (Block $block) use (&$levels): void {
        $levels[] = $block->left[511];
    });
    expect($levels[1])->toEqualWithDelta(0.25 * Decibel::toGain(6.0), 1e-9);
});

it('is as new after a reset', function (): void {
    $curve = static fn (array $samples): array => array_map(static fn (float $x): float => $x / (1.0 + abs($x)), $samples);
    $stage = new SaturationStage(48000);
    $stage->level(20.0, 0.0);
    $stage->filter([], ['dc' => BiquadCoefficients::firstOrderHighPass(5.0, 48000)]);
    $first = staged($stage, $curve, Signal::noise(2048, 3))->left;
    staged($stage, $curve, Signal::sine(50.0, 4096, 0.9));
    $stage->reset();
    expect(staged($stage, $curve, Signal::noise(2048, 3))->left)->toBe($first);
});
