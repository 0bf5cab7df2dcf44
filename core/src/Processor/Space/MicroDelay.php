<?php

declare(strict_types=1);

namespace Hafen\Processor\Space;

use Hafen\Audio\Block;
use Hafen\Dsp\Delay\FadedDelay;
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
 * Delays each side by a few milliseconds: for width, for lining up microphones, for a comb on purpose.
 *
 * Source: arithmetic; a whole number of samples, moved to without a click ({@see FadedDelay}). The first notch of a comb lies at 1/(2 t).
 */
final class MicroDelay implements Processor
{
    use NoLatency;

    /** ms */
    private const LONGEST = 50.0;

    private readonly FadedDelay $left;

    private readonly FadedDelay $right;

    private readonly StereoMatrix $polarity;

    public static function spec(): ProcessorSpec
    {
        return new ProcessorSpec(
            'micro-delay',
            'Micro-delay',
            'Micro', 'Space',
            'A few milliseconds on each side.',
            [
                ParameterSpec::number('left', 'Left', 'ms', 0.0, self::LONGEST, 0.0, step: 0.01),
                ParameterSpec::number('right', 'Right', 'ms', 0.0, self::LONGEST, 0.0, step: 0.01),
                ParameterSpec::choice('inverted', 'Inverted', ['none' => 'None', 'left' => 'Left', 'right' => 'Right', 'both' => 'Both'], 'none'),
            ],
            widens: true,
            synonyms: ['delay', 'haas', 'width', 'align', 'time', 'double'],
        );
    }

    public static function label(ParameterValues $values): string
    {
        return sprintf('%.1f | %.1f ms', $values->number('left'), $values->number('right'));
    }

    public static function chip(ParameterValues $values): ChipLabel
    {
        return new ChipLabel('Micro', round(max($values->number('left'), $values->number('right')), 1).' ms');
    }

    public static function picture(ParameterValues $values, Setting $setting): Picture
    {
        $left = $values->number('left');
        $right = $values->number('right');

        return new Picture('When the sides sound', new Axis('ms', 0.0, 50.0, Scale::Linear), new Axis('', -1.2, 1.2, Scale::Linear), [
            ['label' => 'left', 'points' => [[$left, 0.0], [$left, 1.0]]],
            ['label' => 'right', 'points' => [[$right, 0.0], [$right, -1.0]]],
        ], [
            ['label' => 'L', 'x' => $left, 'y' => 1.0, 'xParameter' => 'left', 'yParameter' => null],
            ['label' => 'R', 'x' => $right, 'y' => -1.0, 'xParameter' => 'right', 'yParameter' => null],
        ]);
    }

    public function __construct(private readonly Setting $setting)
    {
        $this->left = new FadedDelay((int) round(self::LONGEST * $setting->sampleRate / 1000.0));
        $this->right = new FadedDelay((int) round(self::LONGEST * $setting->sampleRate / 1000.0));
        $this->polarity = new StereoMatrix($setting->sampleRate);
    }

    public function set(ParameterValues $values): void
    {
        $this->left->set((int) round($values->number('left') * $this->setting->sampleRate / 1000.0));
        $this->right->set((int) round($values->number('right') * $this->setting->sampleRate / 1000.0));
        $inverted = $values->choice('inverted');
        $this->polarity->towards(in_array($inverted, ['left', 'both'], true) ? -1.0 : 1.0, 0.0, 0.0, in_array($inverted, ['right', 'both'], true) ? -1.0 : 1.0);
    }

    public function process(Block $block): void
    {
        $block->widen();
        $block->left = $this->left->process($block->left);
        $block->right = $this->right->process($block->right);
        $this->polarity->process($block);
    }

    public function reset(): void
    {
        $this->left->reset();
        $this->right->reset();
        $this->polarity->settle();
    }

    public function tail(): int
    {
        return max($this->left->length(), $this->right->length());
    }
}
