<?php

declare(strict_types=1);

namespace Hafen\Metering;

use Hafen\Audio\Block;

/**
 * The measured range of a session, as seen at a tap with latency.
 *
 * Source positions count the samples read from the sources; positions are samples of the session.
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

    /** Converts a source position to a session position. */
    public function position(int $sourcePosition): int
    {
        return $sourcePosition - $this->latency;
    }

    /**
     * Cuts a block to the window.
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
