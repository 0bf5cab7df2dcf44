<?php

declare(strict_types=1);

namespace Hafen\Processor\Dynamics;

use Hafen\Audio\Block;
use Hafen\Audio\Decibel;
use Hafen\Audio\Samples;
use Hafen\Dsp\Delay\DelayLine;
use Hafen\Dsp\Gain\InterSamplePeaks;
use Hafen\Dsp\Gain\SlidingMinimum;
use Hafen\Processor\ChipLabel;
use Hafen\Processor\ParameterSpec;
use Hafen\Processor\ParameterValues;
use Hafen\Processor\Picture;
use Hafen\Processor\Processor;
use Hafen\Processor\ProcessorSpec;
use Hafen\Processor\ReducesGain;
use Hafen\Processor\Scale;
use Hafen\Processor\Setting;
use Hafen\Processor\Settles;

/**
 * Look-ahead limiter: no sample leaves above the ceiling, and with true peak on no inter-sample peak either.
 *
 * The gain each sample needs is held over the look-ahead (sliding minimum), released exponentially, and smoothed by a
 * mean over the same time, so that it has fallen far enough exactly when the delayed sample arrives (practice; the
 * principle is in U. Zölzer, "Digital Audio Signal Processing", ch. 7). Both sides move together.
 */
final class Limiter implements Processor, ReducesGain, Settles
{
    /** True-peak mode aims this much lower, for what four times oversampling can miss. */
    private const TRUE_PEAK_MARGIN = 0.07;

    private float $ceiling = 1.0;

    private float $release = 0.0;

    private bool $truePeak = false;

    private int $lookAhead = 0;

    private DelayLine $delay;

    private SlidingMinimum $minimum;

    /** @var list<float> gains inside the mean, oldest first */
    private array $window = [];

    private float $sum = 0.0;

    private float $held = 1.0;

    private InterSamplePeaks $leftPeaks;

    private InterSamplePeaks $rightPeaks;

    private float $reported = 0.0;

    private float $gain = 1.0;

    public static function spec(): ProcessorSpec
    {
        return new ProcessorSpec(
            'limiter',
            'Limiter',
            'Limit', 'Dynamics',
            'Keeps every peak below the ceiling.',
            [
                ParameterSpec::decibels('ceiling', 'Ceiling', -24.0, 0.0, -1.0),
                ParameterSpec::decibels('gain', 'Gain in', 0.0, 24.0, 0.0),
                ParameterSpec::number('release', 'Release', 'ms', 5.0, 1000.0, 80.0, Scale::Logarithmic, 1.0),
                ParameterSpec::choice('look-ahead', 'Look-ahead', ['1ms' => '1 ms', '2ms' => '2 ms', '5ms' => '5 ms', '10ms' => '10 ms'], '2ms'),
                ParameterSpec::toggle('true-peak', 'True peak', false),
            ],
            levelDependent: true,
            followsLevel: ['ceiling' => 1.0],
            synonyms: ['ceiling', 'brick', 'maximise', 'peak'],
        );
    }

    public static function label(ParameterValues $values): string
    {
        return 'Limiter '.Decibel::text($values->number('ceiling'), '');
    }

    public static function chip(ParameterValues $values): ChipLabel
    {
        return ChipLabel::decibels('Limit', $values->number('ceiling'));
    }

    public static function picture(ParameterValues $values, Setting $setting): Picture
    {
        $ceiling = $values->number('ceiling');
        $gain = $values->number('gain');

        return Picture::transfer(
            static fn (float $level): float => min($level + $gain, $ceiling),
            [['label' => '', 'x' => $ceiling - $gain, 'y' => $ceiling, 'xParameter' => null, 'yParameter' => 'ceiling']],
            -30.0,
        );
    }

    public static function latencyOf(ParameterValues $values, Setting $setting): int
    {
        // The peak detector's delay is always there, so that switching true peak does not shift time.
        return self::lookAhead($values, $setting) + InterSamplePeaks::DELAY;
    }

    public function __construct(private readonly Setting $setting)
    {
        $this->delay = new DelayLine(0);
        $this->minimum = new SlidingMinimum(1);
        $this->leftPeaks = new InterSamplePeaks;
        $this->rightPeaks = new InterSamplePeaks;
    }

    public function set(ParameterValues $values): void
    {
        $this->truePeak = $values->on('true-peak');
        $this->ceiling = Decibel::toGain($values->number('ceiling') - ($this->truePeak ? self::TRUE_PEAK_MARGIN : 0.0));
        $this->gain = Decibel::toGain($values->number('gain'));
        $this->release = exp(-1000.0 / ($values->number('release') * $this->setting->sampleRate));
        $lookAhead = self::lookAhead($values, $this->setting);
        if ($lookAhead !== $this->lookAhead) {
            $this->lookAhead = $lookAhead;
            $this->minimum = new SlidingMinimum($lookAhead + 2 + InterSamplePeaks::DELAY);
            $this->window = array_fill(0, $lookAhead + 1, 1.0);
            $this->sum = (float) ($lookAhead + 1);
        }
        $this->delay->resize($this->latency());
    }

    public function process(Block $block): void
    {
        if ($this->gain !== 1.0) {
            $block->left = Samples::scale($block->left, $this->gain);
            $block->right = Samples::scale($block->right, $this->gain);
        }
        $peaks = $this->truePeak
            ? self::larger($this->leftPeaks->process($block->left), $block->mono ? null : $this->rightPeaks->process($block->right))
            : self::larger($block->left, $block->mono ? null : $block->right);
        $gains = $this->smooth($this->minimum->process($this->needed($peaks)));
        $this->delay->process($block);
        $samples = $block->left;
        $block->left = [];
        $block->left = self::apply($samples, $gains, $this->ceiling);
        if (! $block->mono) {
            $samples = $block->right;
            $block->right = [];
            $block->right = self::apply($samples, $gains, $this->ceiling);
        }
    }

    public function reset(): void
    {
        $this->delay->reset();
        $this->minimum->reset();
        $this->leftPeaks->reset();
        $this->rightPeaks->reset();
        $this->window = array_fill(0, $this->lookAhead + 1, 1.0);
        $this->sum = (float) ($this->lookAhead + 1);
        $this->held = 1.0;
        $this->reported = 0.0;
    }

    public function latency(): int
    {
        return $this->lookAhead + InterSamplePeaks::DELAY;
    }

    public function isSettled(): bool
    {
        return $this->held === 1.0;
    }

    public function tail(): int
    {
        return 0;
    }

    public function gainReduction(): float
    {
        return $this->reported;
    }

    private static function lookAhead(ParameterValues $values, Setting $setting): int
    {
        return max(1, (int) round((float) $values->choice('look-ahead') * $setting->sampleRate / 1000));
    }

    /**
     * The gain every sample needs, with the release.
     *
     * @param  list<float>  $peaks
     * @return list<float>
     */
    private function needed(array $peaks): array
    {
        $held = $this->held;
        $ceiling = $this->ceiling;
        $release = $this->release;
        for ($i = 0, $n = count($peaks); $i < $n; ++$i) {
            $peak = $peaks[$i];
            $needed = $peak > $ceiling ? $ceiling / $peak : 1.0;
            $held = 1.0 - $release * (1.0 - $held);
            if ($held > 0.999999) {
                $held = 1.0;
            }
            if ($needed < $held) {
                $held = $needed;
            }
            $peaks[$i] = $held;
        }
        $this->held = $held;

        return $peaks;
    }

    /**
     * Mean over the look-ahead.
     *
     * @param  list<float>  $gains
     * @return list<float>
     */
    private function smooth(array $gains): array
    {
        $n = count($gains);
        $length = $this->lookAhead + 1;
        $all = [...$this->window, ...$gains];
        $this->window = array_slice($all, $n);
        $sum = $this->sum;
        $lowest = 1.0;
        for ($i = 0; $i < $n; ++$i) {
            $sum += $all[$i + $length] - $all[$i];
            $gain = $sum / $length;
            if ($gain < $lowest) {
                $lowest = $gain;
            }
            $gains[$i] = $gain;
        }
        $this->sum = $sum;
        $this->reported = $lowest < 0.9999 ? -20.0 * log10(max($lowest, 1e-6)) : 0.0;

        return $gains;
    }

    /**
     * @param  list<float>  $left
     * @param  ?list<float>  $right
     * @return list<float>
     */
    private static function larger(array $left, ?array $right): array
    {
        for ($i = 0, $n = count($left); $i < $n; ++$i) {
            $l = $left[$i] < 0.0 ? -$left[$i] : $left[$i];
            if ($right !== null) {
                $r = $right[$i] < 0.0 ? -$right[$i] : $right[$i];
                if ($r > $l) {
                    $l = $r;
                }
            }
            $left[$i] = $l;
        }

        return $left;
    }

    /**
     * @param  list<float>  $samples
     * @param  list<float>  $gains
     * @return list<float>
     */
    private static function apply(array $samples, array $gains, float $ceiling): array
    {
        for ($i = 0, $n = count($samples); $i < $n; ++$i) {
            $sample = $samples[$i] * $gains[$i];
            // The running sum rounds in the last bit; the ceiling does not.
            if ($sample > $ceiling) {
                $sample = $ceiling;
            } elseif ($sample < -$ceiling) {
                $sample = -$ceiling;
            }
            $samples[$i] = $sample;
        }

        return $samples;
    }
}
