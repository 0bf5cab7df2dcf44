<?php

declare(strict_types=1);

namespace Hafen\Hardware;

/** What an input carried between two readings: peak as amplitude, mean square, and samples its converter clipped. */
final readonly class InputReading
{
    public function __construct(public float $peak, public float $meanSquare, public int $clipped)
    {
    }
}
