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
     * Four at once, in the same order and to the same bit as one after the other: most of the time goes into the loop.
     *
     * @param  list<float>  $sum
     * @param  list<float>  $a  as many
     * @param  list<float>  $b
     * @param  list<float>  $c
     * @param  list<float>  $d
     * @return list<float>
     */
    public static function addFourScaled(array $sum, array $a, float $ga, array $b, float $gb, array $c, float $gc, array $d, float $gd): array
    {
        for ($i = 0, $n = count($a); $i < $n; ++$i) {
            $sum[$i] = $sum[$i] + $ga * $a[$i] + $gb * $b[$i] + $gc * $c[$i] + $gd * $d[$i];
        }

        return $sum;
    }

    /**
     * Any number of them, in order.
     *
     * @param  list<float>  $sum
     * @param  list<array{list<float>, float}>  $parts  samples and gain
     * @return list<float>
     */
    public static function addAllScaled(array $sum, array $parts): array
    {
        $n = count($parts);
        $i = 0;
        for (; $i + 4 <= $n; $i += 4) {
            [$a, $b, $c, $d] = [$parts[$i], $parts[$i + 1], $parts[$i + 2], $parts[$i + 3]];
            $sum = self::addFourScaled($sum, $a[0], $a[1], $b[0], $b[1], $c[0], $c[1], $d[0], $d[1]);
        }
        for (; $i < $n; ++$i) {
            $sum = self::addScaled($sum, $parts[$i][0], $parts[$i][1]);
        }

        return $sum;
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

    /**
     * The sum of the products of two lists.
     *
     * @param  list<float>  $a
     * @param  list<float>  $b  as many
     */
    public static function product(array $a, array $b): float
    {
        $product = 0.0;
        for ($i = 0, $n = count($a); $i < $n; ++$i) {
            $product += $a[$i] * $b[$i];
        }

        return $product;
    }
}
