<?php

declare(strict_types=1);

namespace Hafen\Engine;

use Hafen\Audio\Block;

/** The stages of one channel somebody listens to, and what passed there in this block. */
final class StageTaps
{
    /** @var array<string, ?Block> */
    private array $blocks = [];

    public function want(string $stage): void
    {
        $this->blocks[$stage] = null;
    }

    /** Takes a copy where it is wanted. */
    public function pass(string $stage, Block $block): void
    {
        if (array_key_exists($stage, $this->blocks)) {
            $this->blocks[$stage] = clone $block;
        }
    }

    public function at(string $stage): ?Block
    {
        return $this->blocks[$stage] ?? null;
    }
}
