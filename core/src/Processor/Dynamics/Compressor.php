<?php

declare(strict_types=1);

namespace Hafen\Processor\Dynamics;

use Hafen\Audio\Block;
use Hafen\Dsp\Gain\GainComputer;
use Hafen\Dsp\Gain\GainReducer;
use Hafen\Processor\ChipLabel;
use Hafen\Processor\HoldsSidechain;
use Hafen\Processor\NoLatency;
use Hafen\Processor\ParameterSpec;
use Hafen\Processor\ParameterValues;
use Hafen\Processor\Picture;
use Hafen\Processor\Processor;
use Hafen\Processor\ProcessorSpec;
use Hafen\Processor\ReducesGain;
use Hafen\Processor\Scale;
use Hafen\Processor\Setting;
use Hafen\Processor\Settles;
use Hafen\Processor\TakesSidechain;

/**
 * Feed-forward compressor: detector, static curve, attack and release on the gain in dB; both sides move together.
 *
 * Source: Giannoulis, Massberg, Reiss, JAES 2012, see {@see GainReducer}. It can listen to another sound than it works on.
 */
final class Compressor implements Processor, ReducesGain, Settles, TakesSidechain
{
    use HoldsSidechain;
    use NoLatency;

    private readonly GainReducer $reducer;

    private float $reported = 0.0;

    public static function spec(): ProcessorSpec
    {
        return new ProcessorSpec(
            'compressor',
            'Compressor',
            'Comp', 'Dynamics',
            'Turns down what is louder than the threshold.',
            [
                ParameterSpec::decibels('threshold', 'Threshold', -60.0, 0.0, -20.0),
                ParameterSpec::number('ratio', 'Ratio', ':1', 1.0, 20.0, 3.0, Scale::Logarithmic),
                ParameterSpec::decibels('knee', 'Knee', 0.0, 24.0, 6.0),
                ParameterSpec::number('attack', 'Attack', 'ms', 0.1, 200.0, 10.0, Scale::Logarithmic),
                ParameterSpec::number('release', 'Release', 'ms', 5.0, 2000.0, 120.0, Scale::Logarithmic, 1.0),
                ParameterSpec::decibels('make-up', 'Make-up', -12.0, 24.0, 0.0),
                ParameterSpec::choice('detector', 'Detector', ['peak' => 'Peak', 'rms' => 'RMS'], 'peak'),
            ],
            levelDependent: true,
            followsLevel: ['threshold' => 1.0],
            synonyms: ['comp', 'compression', 'dynamics', 'glue'],
            takesSidechain: true,
        );
    }

    public static function label(ParameterValues $values): string
    {
        return 'Compressor';
    }

    public static function chip(ParameterValues $values): ChipLabel
    {
        return new ChipLabel('Comp', round($values->number('ratio'), 1).':1');
    }

    public static function picture(ParameterValues $values, Setting $setting): Picture
    {
        $curve = new GainComputer($values->number('threshold'), $values->number('ratio'), $values->number('knee'));
        $makeUp = $values->number('make-up');
        $threshold = $values->number('threshold');

        return Picture::transfer(
            static fn (float $level): float => $curve->output($level) + $makeUp,
            [['label' => '', 'x' => $threshold, 'y' => $curve->output($threshold) + $makeUp, 'xParameter' => 'threshold', 'yParameter' => null]],
        );
    }

    public function __construct(Setting $setting)
    {
        $this->reducer = new GainReducer($setting->sampleRate);
    }

    public function set(ParameterValues $values): void
    {
        $this->reducer->set(
            new GainComputer($values->number('threshold'), $values->number('ratio'), $values->number('knee')),
            $values->number('attack'),
            $values->number('release'),
            $values->number('make-up'),
            $values->choice('detector') === 'rms',
        );
    }

    public function process(Block $block): void
    {
        $this->reported = $this->reducer->process($block, $this->sidechain);
        $this->sidechain = null;
    }

    public function reset(): void
    {
        $this->reducer->reset();
        $this->reported = 0.0;
    }

    public function isSettled(): bool
    {
        return $this->reducer->isSettled();
    }

    public function tail(): int
    {
        return 0;
    }

    public function gainReduction(): float
    {
        return $this->reported;
    }
}
