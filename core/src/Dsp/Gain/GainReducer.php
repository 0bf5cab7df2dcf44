<?php

declare(strict_types=1);

namespace Hafen\Dsp\Gain;

use Hafen\Audio\Block;
use Hafen\Audio\Decibel;

/**
 * Turns sound down as a compressor does: detector, static curve, attack and release on the gain in dB.
 *
 * Source: Giannoulis, Massberg, Reiss, JAES 2012 (log-domain, smooth decoupled detector, eq. 17). The RMS detector is a
 * 10 ms mean square. Attack is the time to reach 63 % of a rise; release is the time constant of the fall, which the attack then
 * smooths once more.
 */
final class GainReducer
{
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

    public function __construct(private readonly int $sampleRate)
    {
    }

    /**
     * @param  float  $attack  ms
     * @param  float  $release  ms
     * @param  float  $makeUp  dB
     */
    public function set(GainComputer $curve, float $attack, float $release, float $makeUp = 0.0, bool $rms = false): void
    {
        $this->threshold = $curve->threshold;
        $this->slope = 1.0 / $curve->ratio - 1.0;
        $this->knee = $curve->knee;
        $this->attack = $this->coefficient($attack);
        $this->release = $this->coefficient($release);
        $this->makeUp = $makeUp;
        $this->rms = $rms;
    }

    public function reset(): void
    {
        $this->meanSquare = $this->held = $this->reduction = 0.0;
    }

    /**
     * Turns a block down by what it, or another sound, asks for; the louder side counts.
     *
     * @param  ?Block  $sidechain  what is listened to, as long; null is the block itself
     * @return float deepest reduction in dB
     */
    public function process(Block $block, ?Block $sidechain = null): float
    {
        $meanSquare = $this->meanSquare;
        $held = $this->held;
        $reduction = $this->reduction;
        $rms = $this->rms;
        $smoothing = $this->coefficient(self::RMS_MILLISECONDS);
        $fresh = 1.0 - $smoothing;
        $threshold = $this->threshold;
        $slope = -$this->slope;
        $knee = $this->knee;
        $halfKnee = $knee / 2;
        $attack = $this->attack;
        $attacking = 1.0 - $attack;
        $release = $this->release;
        $releasing = 1.0 - $release;
        $toDecibels = 20.0 / M_LN10;
        $toNatural = -M_LN10 / 20.0;
        $makeUp = Decibel::toGain($this->makeUp);
        // Below this amplitude the curve does nothing and no logarithm is needed.
        $floor = Decibel::toGain($threshold - $halfKnee);
        $deepest = 0.0;
        $own = $sidechain === null;
        $keyLeft = $sidechain === null ? [] : $sidechain->left;
        $keyRight = $sidechain === null ? [] : $sidechain->right();
        $mono = $block->mono;
        $left = $block->left;
        $right = $block->right;
        $block->left = $block->right = [];
        for ($i = 0, $n = count($left); $i < $n; ++$i) {
            $x = $left[$i];
            $y = $mono ? $x : $right[$i];
            $l = $own ? $x : $keyLeft[$i];
            $r = $own ? $y : $keyRight[$i];
            if ($rms) {
                $meanSquare = $smoothing * $meanSquare + $fresh * ($l * $l > $r * $r ? $l * $l : $r * $r) + 1e-280 - 1e-280;
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
                    $wanted = $slope * ($over + $halfKnee) * ($over + $halfKnee) / (2.0 * $knee);
                } else {
                    $wanted = $slope * $over;
                }
            }
            $held = $release * $held + $releasing * $wanted;
            if ($wanted > $held) {
                $held = $wanted;
            }
            $reduction = $attack * $reduction + $attacking * $held;
            if ($reduction > 1e-6) {
                if ($reduction > $deepest) {
                    $deepest = $reduction;
                }
                $gain = $makeUp * exp($toNatural * $reduction);
            } else {
                $gain = $makeUp;
                if ($held < 1e-9) {
                    $held = 0.0;
                    $reduction = 0.0;
                }
            }
            $left[$i] = $x * $gain;
            if (! $mono) {
                $right[$i] = $y * $gain;
            }
        }
        $block->left = $left;
        $block->right = $right;
        $this->meanSquare = $meanSquare;
        $this->held = $held;
        $this->reduction = $reduction;

        return $deepest;
    }

    private function coefficient(float $milliseconds): float
    {
        return exp(-1000.0 / ($milliseconds * $this->sampleRate));
    }
}
