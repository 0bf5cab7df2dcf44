<?php

declare(strict_types=1);

namespace Hafen\Processor;

use Hafen\Audio\Block;

/** Holds the key of the next block, see {@see Keyed}. */
trait ListensToKey
{
    private ?Block $key = null;

    public function key(Block $block): void
    {
        $this->key = $block;
    }

    /** The block to listen to: the key if there is one, else the sound itself. */
    private function heard(Block $block): Block
    {
        $key = $this->key ?? $block;
        $this->key = null;

        return $key;
    }
}
