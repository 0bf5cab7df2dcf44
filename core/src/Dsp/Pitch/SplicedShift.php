<?php

declare(strict_types=1);

namespace Hafen\Dsp\Pitch;

use Hafen\Audio\Block;
use Hafen\Audio\Samples;

/**
 * Plays what was heard faster or slower and splices, where the waves fit best, so as neither to run out nor to fall behind.
 *
 * Source: synchronised overlap-add after S. Roucos, A. Wilgus, ICASSP 1985: at a splice the place with the highest normalised correlation is
 * taken, found at a quarter of the rate and refined at the full one, and cross-faded with constant sum. Both sides are spliced at the
 * same places. Splices begin on a grid of {@see HOP} samples counted from the first, whatever the blocks.
 */
final class SplicedShift
{
    /** Samples by which the sound comes later on average, and exactly while nothing is shifted. */
    public const DELAY = 1800;

    private const HOP = 256;

    private const FADE = 512;

    private const NEAREST = 800;

    private const FARTHEST = 3200;

    private const SHORTEST_JUMP = 480;

    private const LONGEST_JUMP = 2000;

    private const KEPT = 8192;

    /** @var list<float> what was heard last, the newest at the end */
    private array $left = [];

    /** @var list<float> */
    private array $right = [];

    private int $count = 0;

    /** Samples by which the reading head was late when the grid's last mark passed. */
    private float $delay = self::DELAY;

    /** The same of the head that is left, while it fades. */
    private float $leaving = 0.0;

    /** Samples a sample by which the head falls behind. */
    private float $drift = 0.0;

    /** Samples still to fade. */
    private int $fading = 0;

    public function __construct()
    {
        $this->reset();
    }

    public function reset(): void
    {
        $this->left = $this->right = array_fill(0, self::KEPT, 0.0);
        $this->count = 0;
        $this->delay = self::DELAY;
        $this->leaving = 0.0;
        $this->fading = 0;
        $this->drift = 0.0;
    }

    /** @param  float  $ratio  what to multiply the pitch by, 0.5 to 2 */
    public function process(Block $block, float $ratio): void
    {
        $mono = $block->mono && $this->left === $this->right;
        if ($block->mono && ! $mono) {
            $block->widen();
        }
        $inLeft = $block->left;
        $inRight = $block->right();
        $left = $right = [];
        $this->turn(1.0 - $ratio);
        for ($done = 0, $frames = count($inLeft); $done < $frames; $done = $end) {
            $end = min($frames, $done + self::HOP - $this->count % self::HOP);
            if ($this->count % self::HOP === 0 && $this->fading === 0) {
                $this->splice($ratio, $mono);
            }
            $length = $end - $done;
            $this->left = [...array_slice($this->left, $length - count($this->left)), ...array_slice($inLeft, $done, $length)];
            $this->right = $mono ? $this->left : [...array_slice($this->right, $length - count($this->right)), ...array_slice($inRight, $done, $length)];
            $into = $this->count % self::HOP;
            $left = self::read($left, $this->left, $length, $into, $this->delay, $this->leaving, $this->fading, $this->drift);
            if (! $mono) {
                $right = self::read($right, $this->right, $length, $into, $this->delay, $this->leaving, $this->fading, $this->drift);
            }
            $this->fading = max(0, $this->fading - $length);
            $this->count += $length;
            if ($this->count % self::HOP === 0) {
                $this->delay += self::HOP * $this->drift;
                $this->leaving += self::HOP * $this->drift;
            }
        }
        $block->left = $left;
        $block->right = $right;
    }

    /** Takes a new drift from here on. */
    private function turn(float $drift): void
    {
        $back = ($this->drift - $drift) * ($this->count % self::HOP);
        $this->delay += $back;
        $this->leaving += $back;
        $this->drift = $drift;
    }

    /** Looks whether the head comes too near or too far before the next look is over, and if so where to go on. */
    private function splice(float $ratio, bool $mono): void
    {
        $away = (1.0 - $ratio) * (self::HOP + self::FADE);
        if ($ratio === 1.0) {
            // Back to the plain delay, once.
            if ($this->delay !== (float) self::DELAY) {
                $this->jumpTo((float) self::DELAY);
            }

            return;
        }
        if ($this->delay + $away < self::NEAREST && $ratio > 1.0) {
            $this->jumpTo($this->delay + $this->bestJump(1.0, $mono));
        } elseif ($this->delay + $away > self::FARTHEST && $ratio < 1.0) {
            $this->jumpTo($this->delay + $this->bestJump(-1.0, $mono));
        }
    }

    private function jumpTo(float $delay): void
    {
        $this->leaving = $this->delay;
        $this->delay = $delay;
        $this->fading = self::FADE;
    }

    /** The jump, in samples further back or nearer, whose sound is most like the one at the head. */
    private function bestJump(float $direction, bool $mono): float
    {
        $heard = $mono ? $this->left : Samples::mid($this->left, $this->right);
        // What lies around the head, and what lies around each place it could go to.
        $head = count($heard) - (int) $this->delay - self::FADE;
        $coarse = [];
        for ($i = 0; $i < self::FADE; $i += 4) {
            $coarse[] = $heard[$head + $i];
        }
        $best = self::SHORTEST_JUMP;
        $likeness = -2.0;
        for ($jump = self::SHORTEST_JUMP; $jump <= self::LONGEST_JUMP; $jump += 4) {
            $here = self::likeness($coarse, $heard, $head - (int) ($direction * $jump), 4);
            if ($here > $likeness) {
                $likeness = $here;
                $best = $jump;
            }
        }
        $fine = array_slice($heard, $head, self::FADE);
        $middle = $best;
        $likeness = -2.0;
        for ($jump = $middle - 4; $jump <= $middle + 4; ++$jump) {
            $here = self::likeness($fine, $heard, $head - (int) ($direction * $jump), 1);
            if ($here > $likeness) {
                $likeness = $here;
                $best = $jump;
            }
        }

        return $direction * $best;
    }

    /**
     * Normalised correlation, -1 to 1.
     *
     * @param  list<float>  $samples
     * @param  list<float>  $heard
     */
    private static function likeness(array $samples, array $heard, int $from, int $step): float
    {
        $product = 0.0;
        $energy = 1e-12;
        for ($i = 0, $at = $from, $n = count($samples); $i < $n; ++$i, $at += $step) {
            $x = $heard[$at];
            $product += $samples[$i] * $x;
            $energy += $x * $x;
        }

        return $product / sqrt($energy);
    }

    /**
     * @param  list<float>  $out
     * @param  list<float>  $heard  the last of them came with the frames to read
     * @param  int  $into  samples since the grid's last mark
     * @return list<float>
     */
    private static function read(array $out, array $heard, int $frames, int $into, float $start, float $leaving, int $fading, float $drift): array
    {
        for ($i = 0, $now = count($heard) - $frames; $i < $frames; ++$i, ++$now) {
            $moved = $drift * ($into + $i);
            $delay = $start + $moved;
            $whole = (int) $delay;
            $part = $delay - $whole;
            $at = $now - $whole;
            $a = $heard[$at + 1];
            $b = $heard[$at];
            $c = $heard[$at - 1];
            $d = $heard[$at - 2];
            $y = $b + 0.5 * $part * ($c - $a + $part * (2.0 * $a - 5.0 * $b + 4.0 * $c - $d + $part * (3.0 * ($b - $c) + $d - $a)));
            if ($i < $fading) {
                $delay = $leaving + $moved;
                $whole = (int) $delay;
                $part = $delay - $whole;
                $at = $now - $whole;
                $a = $heard[$at + 1];
                $b = $heard[$at];
                $c = $heard[$at - 1];
                $d = $heard[$at - 2];
                $old = $b + 0.5 * $part * ($c - $a + $part * (2.0 * $a - 5.0 * $b + 4.0 * $c - $d + $part * (3.0 * ($b - $c) + $d - $a)));
                $share = ($fading - $i) / self::FADE;
                $y += $share * ($old - $y);
            }
            $out[] = $y;
        }

        return $out;
    }
}
