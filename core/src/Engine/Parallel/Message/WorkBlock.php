<?php

declare(strict_types=1);

namespace Hafen\Engine\Parallel\Message;

/** Work a block. Answered by {@see WorkedBlock}. */
final readonly class WorkBlock
{
    /**
     * @param  int  $position  of its first sample, as the sources count
     * @param  int  $half  of the shared memory, 0 or 1
     * @param  bool  $reads  whether the meters and loads are wanted
     */
    public function __construct(public int $position, public int $frames, public int $half, public bool $reads)
    {
    }
}
