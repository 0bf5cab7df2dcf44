<?php

declare(strict_types=1);

namespace Hafen\Metering;

use Hafen\Audio\Block;
use Hafen\Audio\Samples;

/**
 * How alike two sides are: +1 the same, 0 nothing in common, -1 the same with one of them turned over.
 *
 * Source: Pearson's coefficient about zero (definition).
 */
final class CorrelationMeter
{
    private float $product = 0.0;

    private float $left = 0.0;

    private float $right = 0.0;

    /** Measures a block without changing it. */
    public function measure(Block $block): void
    {
        if ($block->isSilent) {
            return;
        }
        if ($block->mono) {
            $energy = Samples::energy($block->left);
            $this->left += $energy;
            $this->right += $energy;
            $this->product += $energy;

            return;
        }
        $left = $right = $product = 0.0;
        $others = $block->right;
        foreach ($block->left as $i => $l) {
            $r = $others[$i];
            $left += $l * $l;
            $right += $r * $r;
            $product += $l * $r;
        }
        $this->left += $left;
        $this->right += $right;
        $this->product += $product;
    }

    /** Null in silence, or where one side is silent. */
    public function read(): ?float
    {
        $power = $this->left * $this->right;

        return $power > 0.0 ? max(-1.0, min(1.0, $this->product / sqrt($power))) : null;
    }
}
