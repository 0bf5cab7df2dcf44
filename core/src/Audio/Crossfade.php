<?php

declare(strict_types=1);

namespace Hafen\Audio;

/** Goes from one sound to another over a block, in a straight line. */
final class Crossfade
{
    /**
     * Mixes one block into another of the same length, both stereo.
     *
     * @param  Block  $block  receives the mix
     * @param  Block  $other  what is heard at share 0
     * @param  float  $from  share of `$block` before its first sample, 0 to 1
     * @param  float  $to  share of `$block` at its last sample
     */
    public static function mix(Block $block, Block $other, float $from, float $to): void
    {
        $frames = $block->frames();
        $step = ($to - $from) / $frames;
        for ($i = 0; $i < $frames; ++$i) {
            $share = $from + $step * ($i + 1);
            $block->left[$i] = $other->left[$i] + $share * ($block->left[$i] - $other->left[$i]);
            $block->right[$i] = $other->right[$i] + $share * ($block->right[$i] - $other->right[$i]);
        }
    }
}
