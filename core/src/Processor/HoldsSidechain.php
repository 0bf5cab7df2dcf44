<?php

declare(strict_types=1);

namespace Hafen\Processor;

use Hafen\Audio\Block;

/** Holds the key of the next block, see {@see TakesSidechain}. */
trait HoldsSidechain
{
    private ?Block $sidechain = null;

    public function sidechain(Block $block): void
    {
        $this->sidechain = $block;
    }

    /** The block to listen to: the key if there is one, else the sound itself. */
    private function heard(Block $block): Block
    {
        $sidechain = $this->sidechain ?? $block;
        $this->sidechain = null;

        return $sidechain;
    }
}
