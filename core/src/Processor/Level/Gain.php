<?php

declare(strict_types=1);

namespace Hafen\Processor\Level;

use Hafen\Audio\Block;
use Hafen\Audio\Decibel;
use Hafen\Audio\Samples;
use Hafen\Dsp\Gain\SteppedGain;
use Hafen\Processor\ChipLabel;
use Hafen\Processor\NoLatency;
use Hafen\Processor\ParameterSpec;
use Hafen\Processor\ParameterValues;
use Hafen\Processor\Picture;
use Hafen\Processor\Processor;
use Hafen\Processor\ProcessorSpec;
use Hafen\Processor\Setting;

/** Gain and polarity inside the row, for the level between two effects. */
final class Gain implements Processor
{
    use NoLatency;

    private readonly SteppedGain $gain;

    private float $leftSign = 1.0;

    private float $rightSign = 1.0;

    public static function spec(): ProcessorSpec
    {
        return new ProcessorSpec(
            'gain',
            'Gain',
            'Gain', 'Level',
            'Gain and polarity between two effects.',
            [
                ParameterSpec::decibels('gain', 'Gain', -60.0, 24.0, 0.0),
                ParameterSpec::choice('polarity', 'Polarity', [
                    'normal' => 'Normal', 'inverted' => 'Inverted', 'left' => 'Left inverted', 'right' => 'Right inverted',
                ], 'normal'),
            ],
            synonyms: ['trim', 'level', 'volume', 'polarity', 'phase', 'invert'],
        );
    }

    public static function label(ParameterValues $values): string
    {
        return 'Gain '.Decibel::text($values->number('gain'), '', true);
    }

    public static function chip(ParameterValues $values): ChipLabel
    {
        return ChipLabel::decibels('Gain', $values->number('gain'));
    }

    public static function picture(ParameterValues $values, Setting $setting): Picture
    {
        $gain = $values->number('gain');

        return Picture::transfer(static fn (float $level): float => $level + $gain, []);
    }

    public function __construct(Setting $setting)
    {
        $this->gain = new SteppedGain($setting->sampleRate);
    }

    public function set(ParameterValues $values): void
    {
        $this->gain->set($values->number('gain'));
        $polarity = $values->choice('polarity');
        $this->leftSign = $polarity === 'inverted' || $polarity === 'left' ? -1.0 : 1.0;
        $this->rightSign = $polarity === 'inverted' || $polarity === 'right' ? -1.0 : 1.0;
    }

    public function process(Block $block): void
    {
        if ($this->leftSign !== $this->rightSign) {
            $block->widen();
        }
        $this->gain->process($block);
        if ($this->leftSign < 0.0) {
            $block->left = Samples::scale($block->left, -1.0);
        }
        if ($this->rightSign < 0.0 && ! $block->mono) {
            $block->right = Samples::scale($block->right, -1.0);
        }
    }

    public function reset(): void
    {
        $this->gain->settle();
    }

    public function tail(): int
    {
        return 0;
    }
}
