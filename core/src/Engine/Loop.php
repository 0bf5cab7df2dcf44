<?php

declare(strict_types=1);

namespace Hafen\Engine;

use InvalidArgumentException;

/** A range of the session that is played again and again: from `start` up to, not including, `end`, in samples. */
final readonly class Loop
{
    /** Seconds below which there is nothing to hear, only work. */
    private const SHORTEST = 0.1;

    /** @throws InvalidArgumentException when it has no length */
    public function __construct(public int $start, public int $end)
    {
        if ($start < 0 || $end <= $start) {
            throw new InvalidArgumentException("A loop from {$start} to {$end} has no length.");
        }
    }

    /** Samples the shortest loop has. */
    public static function shortest(int $sampleRate): int
    {
        return (int) ceil(self::SHORTEST * $sampleRate);
    }
}
