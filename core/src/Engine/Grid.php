<?php

declare(strict_types=1);

namespace Hafen\Engine;

use Hafen\Dsp\Gain\GainRamp;

/** The samples of a session at which what moves is asked where it is: the same ones, wherever playing begins and however it is cut. */
final class Grid
{
    public const STEP = GainRamp::STEP;

    /** The last of them that is not after a position. */
    public static function before(int $position): int
    {
        return (int) floor($position / self::STEP) * self::STEP;
    }

    /** The first of them that is after a position. */
    public static function after(int $position): int
    {
        return self::before($position) + self::STEP;
    }
}
