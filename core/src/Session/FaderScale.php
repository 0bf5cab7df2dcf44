<?php

declare(strict_types=1);

namespace Hafen\Session;

/**
 * How a fader's travel is marked: finer at the top, coarser the further down it stands.
 *
 * The way from the lowest to the highest gain goes evenly in 10^(gain / 45 dB); the control on the screen is drawn by the same law.
 */
final class FaderScale
{
    public const LOWEST = -60.0;

    public const HIGHEST = 12.0;

    private const SPREAD = 45.0;

    /** dB that a hundredth of the travel makes at a gain. */
    public static function resolutionAt(float $gain): float
    {
        $low = 10.0 ** ((self::LOWEST - self::HIGHEST) / self::SPREAD);
        $here = 10.0 ** ((max(self::LOWEST, $gain) - self::HIGHEST) / self::SPREAD);

        return 0.01 * (1.0 - $low) * self::SPREAD / (M_LN10 * $here);
    }
}
