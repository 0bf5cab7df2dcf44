<?php

declare(strict_types=1);

namespace Hafen\Engine;

use Hafen\Audio\Block;

/** Copies the current block at the monitored stages of one channel. */
final class StageTaps
{
    /** @var array<string, ?Block> */
    private array $blocks = [];

    public function want(string $stage): void
    {
        $this->blocks[$stage] = null;
    }

    public function wants(string $stage): bool
    {
        return array_key_exists($stage, $this->blocks);
    }

    /** Copies the block if the stage is monitored. */
    public function pass(string $stage, Block $block): void
    {
        if (array_key_exists($stage, $this->blocks)) {
            $this->blocks[$stage] = clone $block;
        }
    }

    /** The same stages, with nothing at them. */
    public function emptied(): self
    {
        $taps = new self;
        foreach (array_keys($this->blocks) as $stage) {
            $taps->want((string) $stage);
        }

        return $taps;
    }

    /** Copies a piece of what passed at the same stages in the whole stretch. */
    public function passPiece(self $stretch, Piece $piece): void
    {
        foreach ($stretch->blocks as $stage => $block) {
            $this->blocks[$stage] = $block?->part($piece->offset, $piece->frames);
        }
    }

    public function at(string $stage): ?Block
    {
        return $this->blocks[$stage] ?? null;
    }
}
