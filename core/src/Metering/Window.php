<?php

declare(strict_types=1);

namespace Hafen\Metering;

use Hafen\Audio\Block;

/**
 * The part of a session that counts, as seen at a tap where sound comes late.
 *
 * Places count the samples that sources have given out; positions are samples of the session.
 */
final readonly class Window
{
    /**
     * @param  int  $from  first position that counts
     * @param  int  $to  first position that no longer does
     * @param  int  $latency  samples by which sound comes late here
     */
    public function __construct(public int $from, public int $to, public int $latency = 0)
    {
    }

    public function frames(): int
    {
        return $this->to - $this->from;
    }

    public function delayedBy(int $samples): self
    {
        return new self($this->from, $this->to, $samples);
    }

    /** Position of what is at a place. */
    public function position(int $sourcePosition): int
    {
        return $sourcePosition - $this->latency;
    }

    /**
     * What counts of a block that starts at a place.
     *
     * @return ?array{Block, int} with the position of its first sample; null when nothing does
     */
    public function cut(Block $block, int $sourcePosition): ?array
    {
        $position = $this->position($sourcePosition);
        $frames = $block->frames();
        if ($position >= $this->from && $position + $frames <= $this->to) {
            return [$block, $position];
        }
        $first = max(0, $this->from - $position);
        $count = min($position + $frames, $this->to) - $position - $first;
        if ($count <= 0) {
            return null;
        }

        return [new Block(
            array_slice($block->left, $first, $count),
            $block->mono ? [] : array_slice($block->right, $first, $count),
            $block->mono,
        ), $position + $first];
    }
}
