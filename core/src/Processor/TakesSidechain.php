<?php

declare(strict_types=1);

namespace Hafen\Processor;

use Hafen\Audio\Block;

/** A processor with a sidechain input. */
interface TakesSidechain
{
    /** Sets the sidechain block of the next block, of the same length. */
    public function sidechain(Block $block): void;
}
