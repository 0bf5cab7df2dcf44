<?php

declare(strict_types=1);

namespace Hafen\Processor;

use Hafen\Audio\Block;

/** Holds the sidechain of the next block, see {@see TakesSidechain}. */
trait HoldsSidechain
{
    private ?Block $sidechain = null;

    public function sidechain(Block $block): void
    {
        $this->sidechain = $block;
    }

    /** Returns the sidechain block, or the input itself when there is none. */
    private function heard(Block $block): Block
    {
        $sidechain = $this->sidechain ?? $block;
        $this->sidechain = null;

        return $sidechain;
    }
}
