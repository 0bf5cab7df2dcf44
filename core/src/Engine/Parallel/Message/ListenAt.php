<?php

declare(strict_types=1);

namespace Hafen\Engine\Parallel\Message;

use Hafen\Engine\Parallel\Output;

/** From the next block on, put these into the shared memory. Not answered. */
final readonly class ListenAt
{
    /**
     * @param  list<Output>  $outputs
     * @param  array<array-key, true>  $asleep  channels nobody hears, by id
     * @param  int  $memory  key of the shared memory
     * @param  int  $blocks  it has room for in each half
     * @param  int  $frames  of each of them
     */
    public function __construct(public array $outputs, public array $asleep, public int $memory, public int $blocks, public int $frames)
    {
    }
}
