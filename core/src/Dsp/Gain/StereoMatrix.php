<?php

declare(strict_types=1);

namespace Hafen\Dsp\Gain;

use Hafen\Audio\Block;

/**
 * Each side out is a sum of both sides in: left = a l + b r, right = c l + d r. The four gains move without a click.
 *
 * Panning, width, swapping and polarity are all such a matrix. While both sides come out the same a mono block stays mono.
 */
final class StereoMatrix
{
    /** @var array{GainRamp, GainRamp, GainRamp, GainRamp} */
    private readonly array $ramps;

    private bool $isFresh = true;

    public function __construct(int $sampleRate)
    {
        $this->ramps = [
            GainRamp::betweenSteps(1.0, $sampleRate), GainRamp::betweenSteps(0.0, $sampleRate),
            GainRamp::betweenSteps(0.0, $sampleRate), GainRamp::betweenSteps(1.0, $sampleRate),
        ];
    }

    /** Moves to these gains; the first ones are there at once. */
    public function towards(float $a, float $b, float $c, float $d): void
    {
        foreach ([$a, $b, $c, $d] as $i => $gain) {
            $this->ramps[$i]->towards($gain);
        }
        if ($this->isFresh) {
            $this->settle();
        }
        $this->isFresh = false;
    }

    /** Goes to the target at once. */
    public function settle(): void
    {
        foreach ($this->ramps as $ramp) {
            $ramp->settle();
        }
    }

    public function process(Block $block): void
    {
        [$a, $b, $c, $d] = $this->ramps;
        $moves = $a->moving() || $b->moving() || $c->moving() || $d->moving();
        if (! $moves && $a->gain() === 1.0 && $b->gain() === 0.0 && $c->gain() === 0.0 && $d->gain() === 1.0) {
            return;
        }
        $isEven = $a->gain() === $d->gain() && $b->gain() === $c->gain() && $a->target() === $d->target() && $b->target() === $c->target();
        if ($block->mono && ! $isEven) {
            $block->widen();
        }
        $left = $block->left;
        $right = $block->right();
        if ($moves) {
            $frames = count($left);
            [$a, $b, $c, $d] = [$a->next($frames), $b->next($frames), $c->next($frames), $d->next($frames)];
            $block->left = self::moved($left, $right, $a, $b);
            if (! $block->mono) {
                $block->right = self::moved($left, $right, $c, $d);
            }

            return;
        }
        $block->left = self::sum($left, $right, $a->gain(), $b->gain());
        if (! $block->mono) {
            $block->right = self::sum($left, $right, $c->gain(), $d->gain());
        }
    }

    /**
     * @param  list<float>  $left
     * @param  list<float>  $right
     * @return list<float>
     */
    private static function sum(array $left, array $right, float $a, float $b): array
    {
        for ($i = 0, $n = count($left); $i < $n; ++$i) {
            $left[$i] = $a * $left[$i] + $b * $right[$i];
        }

        return $left;
    }

    /**
     * @param  list<float>  $left
     * @param  list<float>  $right
     * @param  list<float>  $a
     * @param  list<float>  $b
     * @return list<float>
     */
    private static function moved(array $left, array $right, array $a, array $b): array
    {
        for ($i = 0, $n = count($left); $i < $n; ++$i) {
            $left[$i] = $a[$i] * $left[$i] + $b[$i] * $right[$i];
        }

        return $left;
    }
}
