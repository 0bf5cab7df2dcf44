<?php

declare(strict_types=1);

namespace Hafen\Dsp;

use Hafen\Audio\Block;

/** Keeps a path wide for as long as it remembers two sides, though what comes in is one: what rings on is of both. */
final class RingOut
{
    private bool $isWide = false;

    private int $ringing = 0;

    /** @param  int  $memory  samples after which equal input has made both sides equal */
    public function __construct(private readonly int $memory)
    {
    }

    /**
     * To be asked before a block is worked; widens a mono block while two sides still ring.
     *
     * @return bool whether the sides part here: the right one goes on from the state of the left one
     */
    public function parts(Block $block): bool
    {
        if (! $block->mono) {
            $parts = ! $this->isWide;
            $this->isWide = true;
            $this->ringing = $this->memory;

            return $parts;
        }
        if ($this->ringing > 0) {
            $this->ringing -= $block->frames();
            $block->widen();
        } else {
            $this->isWide = false;
        }

        return false;
    }

    public function reset(): void
    {
        $this->isWide = false;
        $this->ringing = 0;
    }
}
