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

    /** dB of reduction below which there is none. */
    private const NOTHING = 1e-6;

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

    /** Whether it turns nothing down, and would not begin to by itself. */
    public function isSettled(): bool
    {
        return $this->held === 0.0 && $this->reduction === 0.0 && $this->meanSquare < 1e-12;
    }

    /**
     * Turns a block down by what it, or another sound, asks for; the louder side counts.
     *
     * @param  ?Block  $sidechain  what is listened to, as long; null is the block itself
     * @return float deepest reduction in dB
     */
    public function process(Block $block, ?Block $sidechain = null): float
    {
        $heard = $sidechain ?? $block;
        $reductions = $this->reductions($heard->left, $heard->mono ? $heard->left : $heard->right);
        $left = $block->left;
        $right = $block->right;
        $block->left = $block->right = [];
        $mono = $block->mono;
        $makeUp = Decibel::toGain($this->makeUp);
        $toNatural = -M_LN10 / 20.0;
        $deepest = 0.0;
        foreach ($reductions as $i => $reduction) {
            if ($reduction > self::NOTHING) {
                if ($reduction > $deepest) {
                    $deepest = $reduction;
                }
                $gain = $makeUp * exp($toNatural * $reduction);
            } else {
                $gain = $makeUp;
            }
            $left[$i] *= $gain;
            if (! $mono) {
                $right[$i] *= $gain;
            }
        }
        $block->left = $left;
        $block->right = $right;

        return $deepest;
    }

    /**
     * Reductions in dB for the next samples. In a loop of its own: with two function calls in one loop the JIT keeps little in registers.
     *
     * @param  list<float>  $left
     * @param  list<float>  $right  as many
     * @return list<float>
     */
    private function reductions(array $left, array $right): array
    {
        $meanSquare = $this->meanSquare;
        $held = $this->held;
        $reduction = $this->reduction;
        $rms = $this->rms;
        $smoothing = $this->coefficient(self::RMS_MILLISECONDS);
        $fresh = 1.0 - $smoothing;
        $threshold = $this->threshold;
        $slope = -$this->slope;
        $halfKnee = $this->knee / 2;
        $bend = $this->knee > 0.0 ? $slope / (2.0 * $this->knee) : 0.0;
        $attack = $this->attack;
        $attacking = 1.0 - $attack;
        $release = $this->release;
        $releasing = 1.0 - $release;
        // Of squares, so that no sign has to be looked at.
        $toDecibels = 10.0 / M_LN10;
        // Below this square the curve does nothing and no logarithm is needed.
        $floor = Decibel::toGain($threshold - $halfKnee) ** 2;
        $reductions = [];
        foreach ($left as $i => $x) {
            $square = $x * $x;
            $x = $right[$i];
            $x *= $x;
            if ($x > $square) {
                $square = $x;
            }
            if ($rms) {
                $square = $meanSquare = $smoothing * $meanSquare + $fresh * $square + 1e-280 - 1e-280;
            }
            if ($square > $floor) {
                $wanted = $toDecibels * log($square) - $threshold;
                if ($wanted < $halfKnee) {
                    $wanted += $halfKnee;
                    $wanted *= $bend * $wanted;
                } else {
                    $wanted *= $slope;
                }
                $held = $release * $held + $releasing * $wanted;
                if ($wanted > $held) {
                    $held = $wanted;
                }
            } else {
                $held *= $release;
            }
            $reduction = $attack * $reduction + $attacking * $held;
            if ($reduction < self::NOTHING && $held < self::NOTHING) {
                $held = 0.0;
                $reduction = 0.0;
            }
            $reductions[] = $reduction;
        }
        $this->meanSquare = $meanSquare;
        $this->held = $held;
        $this->reduction = $reduction;

        return $reductions;
    }

    private function coefficient(float $milliseconds): float
    {
        return exp(-1000.0 / ($milliseconds * $this->sampleRate));
    }
}
