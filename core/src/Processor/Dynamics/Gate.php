<?php

declare(strict_types=1);

namespace Hafen\Processor\Dynamics;

use Hafen\Audio\Block;
use Hafen\Audio\Decibel;
use Hafen\Audio\Samples;
use Hafen\Dsp\Filter\BiquadCascade;
use Hafen\Dsp\Filter\BiquadCoefficients;
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
 * Turns down what is softer than the threshold: all at once as a gate, or the more the softer as an expander.
 *
 * Source: Giannoulis, Massberg, Reiss, JAES 2012, for the curve below the threshold (output = threshold + ratio * under);
 * hysteresis and hold from practice. The level is the peak of both sides held for 2 ms; it can listen through a high-pass and
 * a low-pass, or to another sound. Attack opens, release closes, as times to reach 63 % of a change in dB.
 */
final class Gate implements Processor, ReducesGain, Settles, TakesSidechain
{
    use HoldsSidechain;
    use NoLatency;

    private const DETECTOR_MILLISECONDS = 2.0;

    private readonly BiquadCascade $sidechainFilter;

    private float $threshold = -50.0;

    private float $ratio = 100.0;

    private float $range = 60.0;

    private float $hysteresis = 4.0;

    private float $attack = 0.0;

    private float $release = 0.0;

    private int $hold = 0;

    private float $level = 0.0;

    private bool $isOpen = false;

    private int $held = 0;

    private float $reduction = 0.0;

    private bool $isFresh = true;

    private float $reported = 0.0;

    public static function spec(): ProcessorSpec
    {
        return new ProcessorSpec(
            'gate',
            'Gate and expander',
            'Gate', 'Dynamics',
            'Turns down what is softer than the threshold.',
            [
                ParameterSpec::decibels('threshold', 'Threshold', -80.0, 0.0, -45.0),
                ParameterSpec::number('ratio', 'Ratio', ':1', 1.0, 100.0, 100.0, Scale::Logarithmic),
                ParameterSpec::decibels('range', 'Range', 0.0, 80.0, 60.0),
                ParameterSpec::decibels('hysteresis', 'Hysteresis', 0.0, 20.0, 4.0),
                ParameterSpec::number('attack', 'Attack', 'ms', 0.05, 100.0, 0.5, Scale::Logarithmic, 0.01),
                ParameterSpec::number('hold', 'Hold', 'ms', 0.0, 1000.0, 30.0, step: 1.0),
                ParameterSpec::number('release', 'Release', 'ms', 5.0, 2000.0, 100.0, Scale::Logarithmic, 1.0),
                ParameterSpec::frequency('sidechain-low', 'Listen from', 20.0, group: 'Sidechain'),
                ParameterSpec::frequency('sidechain-high', 'Listen to', 20000.0, group: 'Sidechain'),
            ],
            levelDependent: true,
            followsLevel: ['threshold' => 1.0],
            synonyms: ['noise gate', 'expander', 'dynamics', 'spill', 'bleed'],
            takesSidechain: true,
            formerParameters: ['key-low' => 'sidechain-low', 'key-high' => 'sidechain-high'],
        );
    }

    public static function label(ParameterValues $values): string
    {
        return ($values->number('ratio') >= 20.0 ? 'Gate ' : 'Expander ').round($values->number('threshold'));
    }

    public static function chip(ParameterValues $values): ChipLabel
    {
        return ChipLabel::decibels($values->number('ratio') >= 20.0 ? 'Gate' : 'Expand', $values->number('threshold'));
    }

    public static function picture(ParameterValues $values, Setting $setting): Picture
    {
        $threshold = $values->number('threshold');

        return Picture::transfer(
            static fn (float $level): float => $level - self::wanted($level - $threshold, $values->number('ratio'), $values->number('range')),
            [['label' => '', 'x' => $threshold, 'y' => $threshold, 'xParameter' => 'threshold', 'yParameter' => null]],
            -80.0,
        );
    }

    public function __construct(private readonly Setting $setting)
    {
        $this->sidechainFilter = new BiquadCascade;
    }

    public function set(ParameterValues $values): void
    {
        $rate = $this->setting->sampleRate;
        $this->threshold = $values->number('threshold');
        $this->ratio = $values->number('ratio');
        $this->range = $values->number('range');
        $this->hysteresis = $values->number('hysteresis');
        $this->attack = exp(-1000.0 / ($values->number('attack') * $rate));
        $this->release = exp(-1000.0 / ($values->number('release') * $rate));
        $this->hold = (int) round($values->number('hold') * $rate / 1000.0);
        $sections = [];
        if ($values->number('sidechain-low') > 20.0) {
            $sections['low'] = BiquadCoefficients::highPass($values->number('sidechain-low'), M_SQRT1_2, $rate);
        }
        if ($values->number('sidechain-high') < 20000.0) {
            $sections['high'] = BiquadCoefficients::lowPass($values->number('sidechain-high'), M_SQRT1_2, $rate);
        }
        $this->sidechainFilter->set($sections);
    }

    public function process(Block $block): void
    {
        $heard = clone $this->heard($block);
        $this->sidechainFilter->process($heard);
        $gains = $this->gains($heard->left, $heard->right());
        $block->left = Samples::multiply($block->left, $gains);
        if (! $block->mono) {
            $block->right = Samples::multiply($block->right, $gains);
        }
    }

    public function reset(): void
    {
        $this->sidechainFilter->reset();
        $this->level = $this->reduction = $this->reported = 0.0;
        $this->isOpen = false;
        $this->held = 0;
        $this->isFresh = true;
    }

    public function isSettled(): bool
    {
        return ! $this->isOpen && $this->level < 1e-9 && abs($this->reduction - self::wanted(-200.0, $this->ratio, $this->range)) < 1e-9;
    }

    public function tail(): int
    {
        return 0;
    }

    public function gainReduction(): float
    {
        return $this->reported;
    }

    /**
     * @param  list<float>  $left
     * @param  list<float>  $right
     * @return list<float> amplitude factors
     */
    private function gains(array $left, array $right): array
    {
        if ($this->isFresh) {
            // Closed before anything is heard, so that noise at the start does not slip through.
            $this->reduction = self::wanted(-200.0, $this->ratio, $this->range);
            $this->isFresh = false;
        }
        $level = $this->level;
        $isOpen = $this->isOpen;
        $held = $this->held;
        $reduction = $this->reduction;
        $fall = exp(-1000.0 / (self::DETECTOR_MILLISECONDS * $this->setting->sampleRate));
        $opens = Decibel::toGain($this->threshold);
        $closes = Decibel::toGain($this->threshold - $this->hysteresis);
        $attack = $this->attack;
        $release = $this->release;
        $hold = $this->hold;
        $slope = $this->ratio - 1.0;
        $range = $this->range;
        $threshold = $this->threshold;
        $toDecibels = 20.0 / M_LN10;
        $toNatural = M_LN10 / 20.0;
        $deepest = 0.0;
        $gains = [];
        for ($i = 0, $n = count($left); $i < $n; ++$i) {
            $l = abs($left[$i]);
            $r = abs($right[$i]);
            $level *= $fall;
            $peak = $l > $r ? $l : $r;
            if ($peak > $level) {
                $level = $peak;
            }
            if ($level >= $opens) {
                $isOpen = true;
                $held = $hold;
            } elseif ($isOpen && $level < $closes) {
                if ($held > 0) {
                    --$held;
                } else {
                    $isOpen = false;
                }
            }
            $wanted = 0.0;
            if (! $isOpen) {
                $wanted = $range;
                if ($level > 1e-6) {
                    $wanted = $slope * ($threshold - $toDecibels * log($level));
                    $wanted = $wanted > $range ? $range : ($wanted < 0.0 ? 0.0 : $wanted);
                } elseif ($slope === 0.0) {
                    $wanted = 0.0;
                }
            }
            $share = $wanted < $reduction ? $attack : $release;
            $reduction = $wanted + $share * ($reduction - $wanted);
            if ($reduction > 1e-6) {
                if ($reduction > $deepest) {
                    $deepest = $reduction;
                }
                $gains[] = exp(-$toNatural * $reduction);
            } else {
                $gains[] = 1.0;
            }
        }
        $this->level = $level > 1e-12 ? $level : 0.0;
        $this->isOpen = $isOpen;
        $this->held = $held;
        $this->reduction = $reduction;
        $this->reported = $deepest;

        return $gains;
    }

    /** Reduction in dB for a level so many dB over the threshold. */
    private static function wanted(float $over, float $ratio, float $range): float
    {
        return $over >= 0.0 ? 0.0 : min($range, -$over * ($ratio - 1.0));
    }
}
