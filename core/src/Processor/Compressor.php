<?php

declare(strict_types=1);

namespace Hafen\Processor;

use Hafen\Audio\Block;
use Hafen\Audio\Decibel;
use Hafen\Audio\Samples;
use Hafen\Dsp\GainComputer;

/**
 * Feed-forward compressor: detector, static curve, attack and release on the gain in dB; both sides move together.
 *
 * Source: Giannoulis, Massberg, Reiss, JAES 2012 (log-domain, smooth decoupled detector, eq. 17). The RMS detector is a
 * 10 ms mean square. Attack and release are the times to reach 63 % of a change.
 */
final class Compressor implements Processor, ReducesGain
{
    use NoLatency;

    private const RMS_MILLISECONDS = 10.0;

    private float $threshold = 0.0;

    private float $slope = 0.0;

    private float $knee = 0.0;

    private float $attack = 0.0;

    private float $release = 0.0;

    private float $makeUp = 0.0;

    private bool $rms = false;

    private float $meanSquare = 0.0;

    private float $held = 0.0;

    private float $reduction = 0.0;

    private float $reported = 0.0;

    public static function spec(): ProcessorSpec
    {
        return new ProcessorSpec(
            'compressor',
            'Compressor',
            'Dynamics',
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
            synonyms: ['comp', 'compression', 'dynamics', 'glue'],
        );
    }

    public static function label(ParameterValues $values): string
    {
        return 'Compressor';
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

    public function __construct(private readonly Setting $setting)
    {
    }

    public function set(ParameterValues $values): void
    {
        $this->threshold = $values->number('threshold');
        $this->slope = 1.0 / $values->number('ratio') - 1.0;
        $this->knee = $values->number('knee');
        $this->attack = $this->coefficient($values->number('attack'));
        $this->release = $this->coefficient($values->number('release'));
        $this->makeUp = $values->number('make-up');
        $this->rms = $values->choice('detector') === 'rms';
    }

    public function process(Block $block): void
    {
        [$gains, $deepest] = $this->gains($block->left, $block->right());
        $this->reported = $deepest;
        $samples = $block->left;
        $block->left = [];
        $block->left = Samples::multiply($samples, $gains);
        if (! $block->mono) {
            $samples = $block->right;
            $block->right = [];
            $block->right = Samples::multiply($samples, $gains);
        }
    }

    public function reset(): void
    {
        $this->meanSquare = $this->held = $this->reduction = $this->reported = 0.0;
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
     * @return array{list<float>, float} amplitude factors, deepest reduction in dB
     */
    private function gains(array $left, array $right): array
    {
        $meanSquare = $this->meanSquare;
        $held = $this->held;
        $reduction = $this->reduction;
        $rms = $this->rms;
        $smoothing = $this->coefficient(self::RMS_MILLISECONDS);
        $threshold = $this->threshold;
        $slope = $this->slope;
        $knee = $this->knee;
        $halfKnee = $knee / 2;
        $attack = $this->attack;
        $release = $this->release;
        $toDecibels = 20.0 / M_LN10;
        $toNatural = M_LN10 / 20.0;
        $makeUp = Decibel::toGain($this->makeUp);
        // Below this amplitude the curve does nothing and no logarithm is needed.
        $floor = Decibel::toGain($threshold - $halfKnee);
        $deepest = 0.0;
        $gains = [];
        for ($i = 0, $n = count($left); $i < $n; ++$i) {
            $l = $left[$i];
            $r = $right[$i];
            if ($rms) {
                $meanSquare = $smoothing * $meanSquare + (1.0 - $smoothing) * ($l * $l > $r * $r ? $l * $l : $r * $r) + 1e-280 - 1e-280;
                $level = sqrt($meanSquare);
            } else {
                if ($l < 0.0) {
                    $l = -$l;
                }
                if ($r < 0.0) {
                    $r = -$r;
                }
                $level = $l > $r ? $l : $r;
            }
            $wanted = 0.0;
            if ($level > $floor) {
                $over = $toDecibels * log($level) - $threshold;
                if ($over < $halfKnee) {
                    $wanted = -$slope * ($over + $halfKnee) * ($over + $halfKnee) / (2.0 * $knee);
                } else {
                    $wanted = -$slope * $over;
                }
            }
            $held = $release * $held + (1.0 - $release) * $wanted;
            if ($wanted > $held) {
                $held = $wanted;
            }
            $reduction = $attack * $reduction + (1.0 - $attack) * $held;
            if ($reduction > 1e-6) {
                if ($reduction > $deepest) {
                    $deepest = $reduction;
                }
                $gains[] = $makeUp * exp(-$toNatural * $reduction);
            } else {
                $gains[] = $makeUp;
                if ($held < 1e-9) {
                    $held = 0.0;
                    $reduction = 0.0;
                }
            }
        }
        $this->meanSquare = $meanSquare;
        $this->held = $held;
        $this->reduction = $reduction;

        return [$gains, $deepest];
    }

    private function coefficient(float $milliseconds): float
    {
        return exp(-1000.0 / ($milliseconds * $this->setting->sampleRate));
    }
}
