<?php

declare(strict_types=1);

namespace Hafen\Engine;

use Hafen\Audio\Block;

/** A block the engine made, with what passed meanwhile at the taps that are looked at. */
final readonly class PassedBlock
{
    /**
     * @param  Block  $block  what is heard
     * @param  int  $position  in the session of its first sample
     * @param  int  $source  the same as the sources count
     * @param  array<string, Block>  $recorded  at the taps that are recorded, by tap id
     * @param  array<string, Block>  $watched  by tap id
     */
    public function __construct(public Block $block, public int $position, public int $source, public array $recorded, public array $watched)
    {
    }
}
