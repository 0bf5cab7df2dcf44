<?php

declare(strict_types=1);

namespace Hafen\Engine;

use Hafen\Audio\Block;
use Hafen\Audio\Samples;

/**
 * When an insert can rest: silence comes in, what it puts out has been silent for longer than its tail and its latency, and nothing in it
 * moves. It then costs nothing until sound comes in again.
 */
final class Rest
{
    /** Amplitude (-240 dBFS) below which what is put out is silence. */
    private const SILENCE = 1e-12;

    /** Frames more than the tail: delays inside may be a little longer than what is said of them. */
    private const MARGIN = 4800;

    /** Frames for which what came in and what was put out was silent. */
    private int $quiet = 0;

    public function reset(): void
    {
        $this->quiet = 0;
    }

    /** Whether the insert has nothing to do for a block that comes in. */
    public function allows(Block $block, InsertRunner $runner): bool
    {
        if (! $block->isSilent || $block->notes !== []) {
            $this->quiet = 0;

            return false;
        }

        return $this->isOver($runner) && $runner->isSettled();
    }

    /** Whether nothing sounds on in it. */
    public function isOver(InsertRunner $runner): bool
    {
        return $this->quiet >= $runner->tail() + $runner->latency() + self::MARGIN;
    }

    /** Looks at what was put out for a silent block. */
    public function look(Block $block): void
    {
        $highest = max(Samples::peak($block->left), $block->mono ? 0.0 : Samples::peak($block->right));
        $this->quiet = $highest < self::SILENCE ? $this->quiet + $block->frames() : 0;
    }
}
