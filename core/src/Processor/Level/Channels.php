<?php

declare(strict_types=1);

namespace Hafen\Processor\Level;

use Hafen\Processor\Axis;
use Hafen\Processor\ChipLabel;
use Hafen\Processor\ParameterSpec;
use Hafen\Processor\ParameterValues;
use Hafen\Processor\Picture;
use Hafen\Processor\Processor;
use Hafen\Processor\ProcessorSpec;
use Hafen\Processor\Scale;
use Hafen\Processor\Setting;

/**
 * Which side goes where: swapped, one side on both, both as one, only what the sides differ by.
 *
 * Source: arithmetic. The mono sum is (left + right)/2, so that two equal sides keep their level.
 */
final class Channels implements Processor
{
    use Matrix;

    private const MATRICES = [
        'swap' => [0.0, 1.0, 1.0, 0.0],
        'mono' => [0.5, 0.5, 0.5, 0.5],
        'left' => [1.0, 0.0, 1.0, 0.0],
        'right' => [0.0, 1.0, 0.0, 1.0],
        'side' => [0.5, -0.5, 0.5, -0.5],
        'encode' => [0.5, 0.5, 0.5, -0.5],
        'decode' => [1.0, 1.0, 1.0, -1.0],
    ];

    public static function spec(): ProcessorSpec
    {
        return new ProcessorSpec(
            'channels',
            'Channel swap and mono',
            'Sides', 'Level',
            'Swaps the sides, makes one of them, or keeps one.',
            [ParameterSpec::choice('routing', 'Sides', [
                'swap' => 'Swapped', 'mono' => 'Both as one', 'left' => 'Left on both', 'right' => 'Right on both',
                'side' => 'Only the difference', 'encode' => 'Left and right to middle and side', 'decode' => 'Middle and side to left and right',
            ], 'mono')],
            synonyms: ['mono', 'swap', 'sum', 'left', 'right', 'mid', 'side'],
        );
    }

    public static function label(ParameterValues $values): string
    {
        return match ($values->choice('routing')) {
            'swap' => 'Swapped',
            'mono' => 'Mono',
            'left' => 'Left only',
            'right' => 'Right only',
            'side' => 'Difference',
            'encode' => 'To mid/side',
            default => 'From mid/side',
        };
    }

    public static function chip(ParameterValues $values): ChipLabel
    {
        return new ChipLabel('Sides', match ($values->choice('routing')) {
            'swap' => 'swapped',
            'mono' => 'mono',
            'left' => 'L on both',
            'right' => 'R on both',
            'side' => 'side only',
            'encode' => 'to M/S',
            default => 'from M/S',
        });
    }

    /** How loud a sound from each place, at constant power, is on either side. */
    public static function picture(ParameterValues $values, Setting $setting): Picture
    {
        [$leftLeft, $rightLeft, $leftRight, $rightRight] = self::MATRICES[$values->choice('routing')];
        $level = static fn (float $gain): float => round(max(-60.0, 20 * log10(max(1e-4, abs($gain)))), 3);
        $left = $right = [];
        for ($pan = -100; $pan <= 100; $pan += 2) {
            $angle = ($pan / 100.0 + 1.0) * M_PI_4;
            $left[] = [(float) $pan, $level($leftLeft * cos($angle) + $rightLeft * sin($angle))];
            $right[] = [(float) $pan, $level($leftRight * cos($angle) + $rightRight * sin($angle))];
        }

        return new Picture(
            'Level of the sides, of a sound from each place',
            new Axis('%', -100.0, 100.0, Scale::Linear),
            new Axis('dB', -40.0, 6.0, Scale::Linear),
            [['label' => 'left', 'points' => $left], ['label' => 'right', 'points' => $right]],
        );
    }

    /** @return array{float, float, float, float} */
    private static function factors(ParameterValues $values): array
    {
        return self::MATRICES[$values->choice('routing')];
    }
}
