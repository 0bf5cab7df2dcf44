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
 * Turns the waveform over, on both sides or on one.
 *
 * Source: arithmetic, a factor of -1; a change takes 64 samples, so that it does not click.
 */
final class Polarity implements Processor
{
    use Matrix;

    public static function spec(): ProcessorSpec
    {
        return new ProcessorSpec(
            'polarity',
            'Polarity',
            'Polar', 'Level',
            'Turns the waveform over, on both sides or on one.',
            [ParameterSpec::choice('inverted', 'Inverted', ['none' => 'None', 'both' => 'Both sides', 'left' => 'Left', 'right' => 'Right'], 'both')],
            synonyms: ['phase', 'invert', 'flip'],
        );
    }

    public static function label(ParameterValues $values): string
    {
        return match ($values->choice('inverted')) {
            'none' => 'Polarity',
            'both' => 'Inverted',
            default => 'Inverted '.$values->choice('inverted'),
        };
    }

    public static function chip(ParameterValues $values): ChipLabel
    {
        return new ChipLabel('Polar', match ($values->choice('inverted')) {
            'both' => 'L + R',
            'left' => 'L',
            'right' => 'R',
            default => 'none',
        });
    }

    public static function picture(ParameterValues $values, Setting $setting): Picture
    {
        $inverted = $values->choice('inverted');
        $side = static fn (string $side): array => ['label' => $side, 'points' => in_array($inverted, ['both', $side], true) ? [[-100.0, 100.0], [100.0, -100.0]] : [[-100.0, -100.0], [100.0, 100.0]]];

        return new Picture('Wave in, wave out', new Axis('% in', -100.0, 100.0, Scale::Linear), new Axis('% out', -110.0, 110.0, Scale::Linear), [$side('left'), $side('right')]);
    }

    /** @return array{float, float, float, float} */
    private static function factors(ParameterValues $values): array
    {
        $factor = static fn (string $side): float => in_array($values->choice('inverted'), ['both', $side], true) ? -1.0 : 1.0;

        return [$factor('left'), 0.0, 0.0, $factor('right')];
    }
}
