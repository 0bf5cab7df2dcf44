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
     * @param  list<float>  $sum
     * @param  list<float>  $samples  as many
     * @return list<float>
     */
    public static function addScaled(array $sum, array $samples, float $gain): array
    {
        for ($i = 0, $n = count($samples); $i < $n; ++$i) {
            $sum[$i] += $gain * $samples[$i];
        }

        return $sum;
    }

    /**
     * @param  list<float>  $from
     * @param  list<float>  $samples  as many
     * @return list<float>
     */
    public static function subtract(array $from, array $samples): array
    {
        for ($i = 0, $n = count($samples); $i < $n; ++$i) {
            $from[$i] -= $samples[$i];
        }

        return $from;
    }

    /**
     * Half of the sum of two sides: what they share.
     *
     * @param  list<float>  $left
     * @param  list<float>  $right  as many
     * @return list<float>
     */
    public static function mid(array $left, array $right): array
    {
        for ($i = 0, $n = count($left); $i < $n; ++$i) {
            $left[$i] = 0.5 * ($left[$i] + $right[$i]);
        }

        return $left;
    }

    /**
     * Half of the difference of two sides: what they do not share.
     *
     * @param  list<float>  $left
     * @param  list<float>  $right  as many
     * @return list<float>
     */
    public static function side(array $left, array $right): array
    {
        for ($i = 0, $n = count($left); $i < $n; ++$i) {
            $left[$i] = 0.5 * ($left[$i] - $right[$i]);
        }

        return $left;
    }

    /**
     * @param  list<float>  $wet
     * @param  list<float>  $dry
     * @param  list<float>  $shares  of wet, 0 to 1
     * @return list<float>
     */
    public static function mix(array $wet, array $dry, array $shares): array
    {
        for ($i = 0, $n = count($wet); $i < $n; ++$i) {
            $wet[$i] = $dry[$i] + $shares[$i] * ($wet[$i] - $dry[$i]);
        }

        return $wet;
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
