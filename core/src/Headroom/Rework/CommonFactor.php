<?php

declare(strict_types=1);

namespace Hafen\Headroom\Rework;

/** The factor that many have in common. */
final class CommonFactor
{
    /** Relative difference up to which two factors are the same: dB values are rounded in the last places. */
    private const SAME = 1e-9;

    /**
     * @param  list<?float>  $factors
     * @return ?float null where one is null, or they are not the same; 1 where there are none
     */
    public static function of(array $factors): ?float
    {
        $common = $factors[0] ?? null;
        foreach ($factors as $factor) {
            if ($factor === null || $common === null || abs($factor - $common) > self::SAME * abs($common)) {
                return null;
            }
        }

        return $factors === [] ? 1.0 : $common;
    }
}
