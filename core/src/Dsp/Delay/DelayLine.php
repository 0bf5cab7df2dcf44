<?php

declare(strict_types=1);

namespace Hafen\Dsp\Delay;

use Hafen\Audio\Block;

/**
 * Delays both sides of a path by a whole number of samples. A change of the delay is faded over a block, as soon as the
 * samples a longer one needs have been heard.
 */
final class DelayLine
{
    private Past $left;

    private Past $right;

    /** Samples that are known of what came before. */
    private int $known;

    /** Delay that is being left, while it is. */
    private ?int $before = null;

    /** Samples to come before there are enough for the new delay. */
    private int $wanting = 0;

    private bool $used = false;

    public function __construct(private int $length)
    {
        $this->empty();
    }

    /** A copy goes on by itself from what was heard. */
    public function __clone()
    {
        $this->left = clone $this->left;
        $this->right = clone $this->right;
    }

    public function length(): int
    {
        return $this->length;
    }

    /** Whether the next block fades from one delay to another. */
    public function changing(): bool
    {
        return $this->before !== null;
    }

    /** Changes the delay; the newest samples are kept. */
    public function resize(int $length): void
    {
        if ($length === $this->length) {
            return;
        }
        if ($this->used) {
            $this->before ??= $this->length;
            $this->wanting = max(0, $length - $this->known);
        }
        $this->length = $length;
        $this->keep(max($length, $this->before ?? 0));
    }

    public function reset(): void
    {
        $this->empty();
        $this->before = null;
        $this->wanting = 0;
        $this->used = false;
    }

    public function process(Block $block): void
    {
        if ($this->length === 0 && $this->before === null) {
            $this->used = true;

            return;
        }
        if ($block->mono && ! $this->left->equals($this->right)) {
            // What is still to come out was two sides.
            $block->widen();
        }
        $frames = $block->frames();
        $fades = $this->before !== null && $this->wanting <= intdiv($frames, 2);
        $this->left->push($block->left);
        if ($block->mono) {
            $this->right = clone $this->left;
        } else {
            $this->right->push($block->right);
            $block->right = $this->out($this->right, $frames, $fades);
        }
        $block->left = $this->out($this->left, $frames, $fades);
        $this->wanting = max(0, $this->wanting - $frames);
        if ($fades) {
            $this->before = null;
            $this->keep($this->length);
        }
        $this->used = true;
    }

    /**
     * @param  bool  $fades  to the new delay, now
     * @return list<float>
     */
    private function out(Past $past, int $frames, bool $fades): array
    {
        $out = $past->from(($this->before ?? $this->length) + $frames, $frames);
        if ($fades) {
            $new = $past->from($this->length + $frames, $frames);
            for ($i = $this->wanting; $i < $frames; ++$i) {
                $out[$i] += ($i + 1 - $this->wanting) / ($frames - $this->wanting) * ($new[$i] - $out[$i]);
            }
        }

        return $out;
    }

    private function keep(int $samples): void
    {
        $this->left->resize($samples);
        $this->right->resize($samples);
        $this->known = $samples;
    }

    private function empty(): void
    {
        $this->left = new Past($this->length);
        $this->right = clone $this->left;
        $this->known = $this->length;
    }
}
