<?php

declare(strict_types=1);

namespace Hafen\Processor\Level;

use Hafen\Audio\Block;
use Hafen\Audio\Decibel;
use Hafen\Audio\Samples;
use Hafen\Dsp\Filter\BiquadCascade;
use Hafen\Dsp\Filter\BiquadCoefficients;
use Hafen\Dsp\Gain\StereoMatrix;
use Hafen\Processor\ChipLabel;
use Hafen\Processor\NoLatency;
use Hafen\Processor\ParameterSpec;
use Hafen\Processor\ParameterValues;
use Hafen\Processor\Picture;
use Hafen\Processor\Processor;
use Hafen\Processor\ProcessorSpec;
use Hafen\Processor\Setting;

/**
 * Mid and side: how wide the sound is, how loud its middle, and below which frequency it is narrow.
 *
 * Source: mid = (left + right)/2, side = (left - right)/2 (A. Blumlein 1931, practice). What is narrow below a frequency
 * has its side go through a second-order Butterworth high-pass.
 */
final class Width implements Processor
{
    use NoLatency;

    private readonly StereoMatrix $matrix;

    private readonly BiquadCascade $narrow;

    private bool $isNarrow = false;

    public static function spec(): ProcessorSpec
    {
        return new ProcessorSpec(
            'width',
            'Width',
            'Width', 'Level',
            'Narrows or widens the sound by its middle and its sides.',
            [
                ParameterSpec::number('width', 'Width', '%', 0.0, 200.0, 100.0, step: 1.0),
                ParameterSpec::decibels('mid', 'Middle', -24.0, 12.0, 0.0),
                ParameterSpec::toggle('narrow', 'Narrow below', false),
                ParameterSpec::frequency('frequency', 'Frequency', 120.0, 20.0, 500.0),
            ],
            synonyms: ['mid', 'side', 'stereo', 'image', 'mono', 'narrow', 'spread'],
        );
    }

    public static function label(ParameterValues $values): string
    {
        return 'Width '.round($values->number('width')).' %';
    }

    public static function chip(ParameterValues $values): ChipLabel
    {
        return ChipLabel::percent('Width', $values->number('width'));
    }

    public static function picture(ParameterValues $values, Setting $setting): Picture
    {
        $width = $values->number('width') / 100.0;
        $section = BiquadCoefficients::highPass($values->number('frequency'), M_SQRT1_2, $setting->sampleRate);
        $narrow = $values->on('narrow');

        return Picture::response(
            static fn (float $frequency): float => $width * ($narrow ? $section->magnitude($frequency, $setting->sampleRate) : 1.0),
            $setting->sampleRate,
            24.0,
            $narrow ? [['label' => '', 'x' => $values->number('frequency'), 'y' => -3.0, 'xParameter' => 'frequency', 'yParameter' => null]] : [],
            'Level of the side',
        );
    }

    public function __construct(private readonly Setting $setting)
    {
        $this->matrix = new StereoMatrix($setting->sampleRate);
        $this->narrow = new BiquadCascade;
    }

    public function set(ParameterValues $values): void
    {
        $side = 0.5 * $values->number('width') / 100.0;
        $mid = 0.5 * Decibel::toGain($values->number('mid'));
        $this->matrix->towards($mid + $side, $mid - $side, $mid - $side, $mid + $side);
        $this->isNarrow = $values->on('narrow');
        $this->narrow->set($this->isNarrow ? ['side' => BiquadCoefficients::highPass($values->number('frequency'), M_SQRT1_2, $this->setting->sampleRate)] : []);
    }

    public function process(Block $block): void
    {
        if ($this->isNarrow) {
            $side = Block::mono(Samples::side($block->left, $block->right()));
            $isRinging = $this->narrow->isRinging();
            $this->narrow->process($side);
            if (! $block->mono || $isRinging) {
                $block->widen();
                $mid = Samples::mid($block->left, $block->right);
                $block->left = Samples::addScaled($mid, $side->left, 1.0);
                $block->right = Samples::addScaled($mid, $side->left, -1.0);
            }
        }
        $this->matrix->process($block);
    }

    public function reset(): void
    {
        $this->matrix->settle();
        $this->narrow->reset();
    }

    public function tail(): int
    {
        return $this->isNarrow ? intdiv($this->setting->sampleRate, 10) : 0;
    }
}
