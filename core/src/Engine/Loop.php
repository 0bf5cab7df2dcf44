<?php

declare(strict_types=1);

namespace Hafen\Engine;

use InvalidArgumentException;

/** A stretch of the session that is played again and again: from `start` up to, not including, `end`, in samples. */
final readonly class Loop
{
    public function __construct(public int $start, public int $end)
    {
        if ($start < 0 || $end <= $start) {
            throw new InvalidArgumentException("A loop from {$start} to {$end} has no length.");
        }
    }
}
