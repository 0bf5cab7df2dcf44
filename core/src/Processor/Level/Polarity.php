<?php

declare(strict_types=1);

namespace Hafen\Processor\Level;

use Hafen\Audio\Block;
use Hafen\Dsp\Gain\StereoMatrix;
use Hafen\Processor\Axis;
use Hafen\Processor\ChipLabel;
use Hafen\Processor\NoLatency;
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
    use NoLatency;

    private readonly StereoMatrix $matrix;

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

    public function __construct(Setting $setting)
    {
        $this->matrix = new StereoMatrix($setting->sampleRate);
    }

    public function set(ParameterValues $values): void
    {
        $inverted = $values->choice('inverted');
        $this->matrix->towards(in_array($inverted, ['both', 'left'], true) ? -1.0 : 1.0, 0.0, 0.0, in_array($inverted, ['both', 'right'], true) ? -1.0 : 1.0);
    }

    public function process(Block $block): void
    {
        $this->matrix->process($block);
    }

    public function reset(): void
    {
        $this->matrix->settle();
    }

    public function tail(): int
    {
        return 0;
    }
}
