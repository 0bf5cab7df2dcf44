<?php

declare(strict_types=1);

namespace Hafen\Audio;

/**
 * The Kaiser window and low-pass filters made with it.
 *
 * Source: J. F. Kaiser, "Nonrecursive digital filter design using the I0-sinh window function", 1974.
 */
final class KaiserWindow
{
    /** Window value at x from -1 to +1. */
    public static function at(float $x, float $beta): float
    {
        return self::bessel($beta * sqrt(max(0.0, 1.0 - $x * $x))) / self::bessel($beta);
    }

    /**
     * A linear-phase low-pass of odd length with gain 1 at 0 Hz.
     *
     * @param  float  $cutoff  -6 dB point as a fraction of the sample rate, 0 to 0.5
     * @return list<float>
     */
    public static function lowPass(int $length, float $cutoff, float $beta): array
    {
        $middle = ($length - 1) / 2;
        $taps = [];
        for ($i = 0; $i < $length; ++$i) {
            $x = $i - $middle;
            $sinc = $x === 0.0 || abs($x) < 1e-12 ? 2 * $cutoff : sin(2 * M_PI * $cutoff * $x) / (M_PI * $x);
            $taps[] = $sinc * self::at($x / ($middle + 1), $beta);
        }
        $sum = array_sum($taps);

        return array_map(static fn (float $tap): float => $tap / $sum, $taps);
    }

    /** Modified Bessel function of the first kind, order 0 (power series). */
    private static function bessel(float $x): float
    {
        $sum = $term = 1.0;
        for ($k = 1; $k < 60 && $term > $sum * 1e-17; ++$k) {
            $term *= ($x / (2.0 * $k)) ** 2;
            $sum += $term;
        }

        return $sum;
    }
}
