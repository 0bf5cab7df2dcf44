<?php

declare(strict_types=1);

namespace Hafen\Dsp\Saturation;

/**
 * A smooth curve through evenly spaced points that never swings beyond them.
 *
 * Source: F. N. Fritsch, R. E. Carlson, "Monotone piecewise cubic interpolation", SIAM J. Numer. Anal. 1980, with the harmonic mean of the
 * slopes beside a point as its tangent (F. N. Fritsch, J. Butland 1984).
 */
final class MonotoneCubic
{
    /**
     * @param  list<float>  $points  two or more
     * @return list<float> so many steps from each point to the next, and the last point
     */
    public static function through(array $points, int $steps): array
    {
        $slopes = [];
        for ($i = 0, $last = count($points) - 1; $i < $last; ++$i) {
            $slopes[] = $points[$i + 1] - $points[$i];
        }
        $tangents = [$slopes[0]];
        for ($i = 1; $i < $last; ++$i) {
            $a = $slopes[$i - 1];
            $b = $slopes[$i];
            $tangents[] = $a * $b <= 0.0 ? 0.0 : 2.0 * $a * $b / ($a + $b);
        }
        $tangents[] = $slopes[$last - 1];
        $curve = [];
        for ($i = 0; $i < $last; ++$i) {
            for ($step = 0; $step < $steps; ++$step) {
                $t = $step / $steps;
                $u = 1.0 - $t;
                $curve[] = $points[$i] * (1.0 + 2.0 * $t) * $u * $u + $tangents[$i] * $t * $u * $u
                    + $points[$i + 1] * $t * $t * (3.0 - 2.0 * $t) - $tangents[$i + 1] * $t * $t * $u;
            }
        }
        $curve[] = $points[$last];

        return $curve;
    }
}
