<?php

declare(strict_types=1);

namespace Hafen\Dsp;

/**
 * White noise that is the same at the same sample of a session, wherever playing begins.
 *
 * Source: x' = (1664525 x + 1013904223) mod 2^32, W. Press et al., "Numerical Recipes"; many steps at once are one
 * with another factor and summand (F. Brown, "Random number generation with arbitrary strides", 1994).
 */
final class SeekableNoise
{
    private const FACTOR = 1664525;

    private const SUMMAND = 1013904223;

    private const MASK = 0xFFFFFFFF;

    /**
     * @param  int  $position  of the first sample; may be negative
     * @return list<float> from -1 to +1
     */
    public static function samples(int $position, int $count): array
    {
        $state = self::state($position & self::MASK);
        $samples = [];
        for ($i = 0; $i < $count; ++$i) {
            $state = ($state * self::FACTOR + self::SUMMAND) & self::MASK;
            $samples[] = $state / 2147483648.0 - 1.0;
        }

        return $samples;
    }

    /** Where the sequence that begins with 1 is after so many steps; it comes round after 2^32. */
    private static function state(int $steps): int
    {
        $state = 1;
        [$factor, $summand] = [self::FACTOR, self::SUMMAND];
        for (; $steps > 0; $steps >>= 1) {
            if (($steps & 1) === 1) {
                $state = (self::product($factor, $state) + $summand) & self::MASK;
            }
            $summand = (self::product($factor, $summand) + $summand) & self::MASK;
            $factor = self::product($factor, $factor);
        }

        return $state;
    }

    /** Of two numbers of 32 bits, mod 2^32, without leaving the 64 bits of an integer. */
    private static function product(int $one, int $other): int
    {
        return (((($one * ($other >> 16)) & self::MASK) << 16) + $one * ($other & 0xFFFF)) & self::MASK;
    }
}
