<?php

declare(strict_types=1);

namespace Hafen\Audio;

/** Plain arithmetic on lists of samples, each in the one loop the JIT likes. */
final class Samples
{
    /**
     * @param  list<float>  $samples
     * @param  list<float>  $gains  as many
     * @return list<float>
     */
    public static function multiply(array $samples, array $gains): array
    {
        for ($i = 0, $n = count($samples); $i < $n; ++$i) {
            $samples[$i] *= $gains[$i];
        }

        return $samples;
    }

    /**
     * @param  list<float>  $samples
     * @return list<float>
     */
    public static function scale(array $samples, float $gain): array
    {
        for ($i = 0, $n = count($samples); $i < $n; ++$i) {
            $samples[$i] *= $gain;
        }

        return $samples;
    }

    /**
     * @param  list<float>  $sum
     * @param  list<float>  $samples  as many
     * @return list<float>
     */
    public static function add(array $sum, array $samples): array
    {
        for ($i = 0, $n = count($samples); $i < $n; ++$i) {
            $sum[$i] += $samples[$i];
        }

        return $sum;
    }

    /**
     * The largest amplitude, 0 or more.
     *
     * @param  list<float>  $samples
     */
    public static function peak(array $samples): float
    {
        $peak = 0.0;
        for ($i = 0, $n = count($samples); $i < $n; ++$i) {
            $x = $samples[$i];
            if ($x < 0.0) {
                $x = -$x;
            }
            if ($x > $peak) {
                $peak = $x;
            }
        }

        return $peak;
    }

    /**
     * The sum of squares.
     *
     * @param  list<float>  $samples
     */
    public static function energy(array $samples): float
    {
        $energy = 0.0;
        for ($i = 0, $n = count($samples); $i < $n; ++$i) {
            $energy += $samples[$i] * $samples[$i];
        }

        return $energy;
    }
}
