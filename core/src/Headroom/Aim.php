<?php

declare(strict_types=1);

namespace Hafen\Headroom;

/** Where the main should be. Practice: peaks of about -6 dBFS while mixing. */
final readonly class Aim
{
    /** dB full scale, or LUFS, that an aim can be set to. */
    public const LOWEST = -60.0;

    public const HIGHEST = 0.0;

    public function __construct(public AimFigure $figure = AimFigure::Peak, public float $level = -6.0)
    {
    }

    /** By how many dB levels are above it, below 0 where they are under; null in silence. */
    public function excess(Levels $levels): ?float
    {
        $figure = $levels->figure($this->figure);

        return $figure === null ? null : $figure - $this->level;
    }
}
