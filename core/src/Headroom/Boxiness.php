<?php

declare(strict_types=1);

namespace Hafen\Headroom;

use Hafen\Metering\Spectrum;

/**
 * Where between 200 and 500 Hz a sound piles up, and by how much it stands above what is around.
 *
 * Source: practice; boxy resonance lie at 200 to 500 Hz, often near 400, and take a cut of 3 to 6 dB.
 */
final readonly class Boxiness
{
    private const LEAST = 2.0;

    /** @param  float  $rise  dB above its surroundings */
    private function __construct(public float $frequency, public float $rise)
    {
    }

    /** Null where nothing stands out. */
    public static function of(Spectrum $low): ?self
    {
        $around = self::density($low, 120.0, 600.0);
        if ($around <= 0.0) {
            return null;
        }
        $best = null;
        for ($frequency = 200.0; $frequency <= 500.0; $frequency *= 2.0 ** (1 / 12)) {
            $here = self::excess($low, $frequency);
            $rise = 10.0 * log10(max(1e-12, $here / $around));
            $isTop = $here >= self::excess($low, $frequency / 2.0 ** (1 / 3)) && $here >= self::excess($low, $frequency * 2.0 ** (1 / 3));
            if ($isTop && $rise >= self::LEAST && ($best === null || $rise > $best->rise)) {
                $best = new self(round($frequency), $rise);
            }
        }

        return $best;
    }

    /** dB to cut by, 3 to 6. */
    public function cut(): float
    {
        return min(6.0, max(3.0, round($this->rise * 2.0) / 2.0));
    }

    /** Power an octave, in the half of an octave around a frequency. */
    public static function excess(Spectrum $low, float $frequency): float
    {
        return self::density($low, $frequency * 2.0 ** (-1 / 4), $frequency * 2.0 ** (1 / 4));
    }

    /** Power an octave, so that a sound with as much in every octave is flat. */
    private static function density(Spectrum $low, float $from, float $to): float
    {
        return $low->between($from, $to) / log($to / $from, 2);
    }
}
