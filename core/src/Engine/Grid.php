<?php

declare(strict_types=1);

namespace Hafen\Engine;

use Hafen\Dsp\Gain\GainRamp;

/** The fixed grid of session samples at which automation is evaluated, so that results do not depend on the start or the block length. */
final class Grid
{
    public const STEP = GainRamp::STEP;

    /** The grid sample at or before a position. */
    public static function before(int $position): int
    {
        return (int) floor($position / self::STEP) * self::STEP;
    }

    /** The grid sample after a position. */
    public static function after(int $position): int
    {
        return self::before($position) + self::STEP;
    }
}
