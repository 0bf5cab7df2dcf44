<?php

declare(strict_types=1);

namespace Hafen\Dsp\Delay;

use Hafen\Audio\Block;

/** Both sides of a path at the same moving delay; see {@see WaveringTap}. */
final class WaveringSides
{
    private readonly WaveringTap $left;

    private readonly WaveringTap $right;

    private bool $wasMono = true;

    /** @param  int  $room  the longest delay in samples */
    public function __construct(int $room)
    {
        $this->left = new WaveringTap($room);
        $this->right = new WaveringTap($room);
    }

    /** @param  list<float>  $delays  samples, from 1 to the room, one for each of the block */
    public function process(Block $block, array $delays): void
    {
        // Both sides are heard all the time, so that a sound may become wide at any moment.
        $this->left->hear($block->left);
        $this->right->hear($block->right());
        $block->left = $this->left->read($delays);
        if (! $block->mono || ! $this->wasMono) {
            $block->right = $this->right->read($delays);
            $this->wasMono = $block->mono && $block->right === $block->left;
            $block->mono = $this->wasMono;
            $block->right = $block->mono ? [] : $block->right;
        }
    }

    public function reset(): void
    {
        $this->left->reset();
        $this->right->reset();
        $this->wasMono = true;
    }
}
