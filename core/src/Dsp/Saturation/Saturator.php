<?php

declare(strict_types=1);

namespace Hafen\Dsp\Saturation;

use Closure;
use Hafen\Audio\Block;
use Hafen\Dsp\RingOut;

/**
 * Sends both sides of a path through a curve at a higher sample rate, so that what the curve adds above half the rate does not
 * fold back.
 *
 * The curve gets and gives a list of samples at {@see factor()} times the rate; it must not keep anything from one list to the
 * next.
 */
final class Saturator
{
    private Oversampler $left;

    private Oversampler $right;

    private readonly RingOut $ringOut;

    /** @param  bool  $isTwice  twice the rate instead of four times */
    public function __construct(private readonly bool $isTwice = false)
    {
        $this->ringOut = new RingOut(Oversampler::MEMORY);
        $this->left = new Oversampler($isTwice);
        $this->right = new Oversampler($isTwice);
    }

    /** Samples by which the sound comes later. */
    public static function delay(bool $isTwice = false): int
    {
        return $isTwice ? Oversampler::DELAY_TWICE : (int) Oversampler::DELAY;
    }

    public function factor(): int
    {
        return $this->isTwice ? 2 : Oversampler::FACTOR;
    }

    /** @param  Closure(list<float>): list<float>  $curve */
    public function process(Block $block, Closure $curve): void
    {
        if ($this->ringOut->parts($block)) {
            $this->right = clone $this->left;
        }
        $left = $block->left;
        $block->left = [];
        $block->left = $this->left->down($curve($this->left->up($left)));
        if (! $block->mono) {
            $right = $block->right;
            $block->right = [];
            $block->right = $this->right->down($curve($this->right->up($right)));
        }
    }

    public function reset(): void
    {
        $this->left->reset();
        $this->right->reset();
        $this->ringOut->reset();
    }
}
