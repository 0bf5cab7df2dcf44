<?php

declare(strict_types=1);

namespace Hafen\Session\Insert;

/** How branches fade into each other where their ranges meet. */
enum SelectorFade: string
{
    /** The power of two that meet stays the same: for branches that differ. */
    case EqualPower = 'equal-power';
    /** The amplitudes of two that meet add up to one: for branches that are alike. */
    case Linear = 'linear';

    /**
     * The amplitude on the way in.
     *
     * Source: sin(pi t / 2) against cos(pi t / 2), whose squares add up to 1; t against 1 - t.
     *
     * @param  float  $share  0 to 1
     */
    public function gain(float $share): float
    {
        return match (true) {
            $share <= 0.0 => 0.0,
            $share >= 1.0 => 1.0,
            $this === self::EqualPower => sin(M_PI_2 * $share),
            default => $share,
        };
    }
}
