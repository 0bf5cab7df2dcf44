<?php

declare(strict_types=1);

namespace Hafen\Edit\Level;

use Hafen\Edit\EditRefused;
use Hafen\Edit\Refusals\AtItsLimit;
use Hafen\Edit\Refusals\NothingSelected;

/**
 * How far several gains can move together: as far as asked, but none beyond its range, so that their relation stays. A gain that is
 * beyond it already can come back, and goes no further out.
 */
final class RelativeMove
{
    /**
     * @param  list<?float>  $gains  in dB; silence stays silence
     * @return float the move in dB all of them can make
     *
     * @throws EditRefused when one of them is at its limit already
     */
    public static function of(float $by, array $gains, float $lowest, float $highest, string $what): float
    {
        if ($gains === []) {
            throw NothingSelected::atAll();
        }
        $possible = $by;
        foreach ($gains as $gain) {
            if ($gain !== null) {
                $possible = max(min(0.0, $lowest - $gain), min(max(0.0, $highest - $gain), $possible));
            }
        }
        if (abs($possible) < 0.001 && abs($by) >= 0.001) {
            throw AtItsLimit::of($what, $by > 0 ? "+{$highest} dB" : "{$lowest} dB");
        }

        return $possible;
    }
}
