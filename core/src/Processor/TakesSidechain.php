<?php

declare(strict_types=1);

namespace Hafen\Processor;

use Hafen\Audio\Block;

/** A processor that can listen to another sound than the one it works on. */
interface TakesSidechain
{
    /** Gives the sound to listen to during the next block, as long as that block. */
    public function sidechain(Block $block): void;
}
