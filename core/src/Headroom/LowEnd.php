<?php

declare(strict_types=1);

namespace Hafen\Headroom;

use Hafen\Metering\Spectrum;

/**
 * Where what a channel is for begins, read off its spectrum: below it lies nothing, or rumble.
 *
 * Source: practice; high-passes of 40 to 100 Hz where nothing useful is below. Few instruments reach below 40 Hz.
 */
final readonly class LowEnd
{
    private const CANDIDATES = [40.0, 50.0, 63.0, 80.0, 100.0];

    /** Share of a channel's energy that is nothing. */
    private const NOTHING = 0.01;

    /** Share of a channel's energy below 45 Hz from which on it is rumble. */
    private const RUMBLE = 0.2;

    /** @param  float  $removed  share of the energy below the frequency, 0 to 1 */
    private function __construct(public float $frequency, public float $removed)
    {
    }

    /**
     * @param  float  $all  mean square of the channel
     * @return ?self null where there is something all the way down, or nothing at all
     */
    public static function of(Spectrum $low, float $all): ?self
    {
        if ($all <= 0.0) {
            return null;
        }
        $below = static fn (float $frequency): float => min(1.0, $low->between(0.0, $frequency) / $all);
        if ($below(45.0) > self::RUMBLE) {
            $frequency = self::valley($low);

            return $frequency === null ? null : new self($frequency, $below($frequency));
        }
        $found = null;
        foreach (self::CANDIDATES as $candidate) {
            if ($below($candidate) <= self::NOTHING) {
                $found = $candidate;
            }
        }

        return $found === null ? null : new self($found, $below($found));
    }

    /** The quietest third of an octave between rumble and what follows it; null where rumble only fades into the rest. */
    private static function valley(Spectrum $low): ?float
    {
        $quietest = INF;
        $at = null;
        for ($frequency = 50.0; $frequency <= 160.0; $frequency *= 2.0 ** (1 / 6)) {
            $level = $low->between($frequency * 2.0 ** (-1 / 6), $frequency * 2.0 ** (1 / 6)) / $frequency;
            if ($level < $quietest) {
                $quietest = $level;
                $at = $frequency;
            }
        }

        return $at === null ? null : min(100.0, round($at));
    }
}
