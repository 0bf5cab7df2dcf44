<?php

declare(strict_types=1);

namespace Hafen\Dsp\Reverb;

/**
 * Where the first reflections of a rectangular room come from, and when.
 *
 * Source: J. B. Allen, D. A. Berkley, "Image method for efficiently simulating small-room acoustics", JASA 1979: every wall mirrors the
 * source; an image's sound is late by its distance and weaker by it and by each wall it met.
 */
final class ShoeboxRoom
{
    private const SPEED_OF_SOUND = 343.0;

    /**
     * The earliest reflections, without the direct sound.
     *
     * @param  array{float, float, float}  $size  m
     * @param  array{float, float, float}  $source  as shares of the size
     * @param  array{float, float, float}  $listener
     * @param  float  $reflection  amplitude factor of a wall
     * @return list<array{float, float, float}> ms after the direct sound, amplitude factor on the left and on the right
     */
    public static function reflections(array $size, array $source, array $listener, float $reflection, int $count): array
    {
        $ear = [$listener[0] * $size[0], $listener[1] * $size[1], $listener[2] * $size[2]];
        $images = [];
        foreach (range(-2, 2) as $x) {
            foreach (range(-2, 2) as $y) {
                foreach (range(-1, 1) as $z) {
                    $at = [];
                    foreach ([$x, $y, $z] as $axis => $order) {
                        $image = ($order % 2 === 0 ? $source[$axis] : 1.0 - $source[$axis]) + $order;
                        $at[] = $image * $size[$axis] - $ear[$axis];
                    }
                    $distance = sqrt($at[0] ** 2 + $at[1] ** 2 + $at[2] ** 2);
                    $walls = abs($x) + abs($y) + abs($z);
                    // Constant power between the sides, by the angle it comes from.
                    $angle = M_PI_4 * (1.0 + $at[0] / max(0.01, hypot($at[0], $at[1])));
                    $images[] = [$distance, $reflection ** $walls / $distance, $angle];
                }
            }
        }
        usort($images, static fn (array $a, array $b): int => $a[0] <=> $b[0]);
        [$direct] = $images[0];
        $reflections = [];
        foreach (array_slice($images, 1, $count) as [$distance, $gain, $angle]) {
            $reflections[] = [1000.0 * ($distance - $direct) / self::SPEED_OF_SOUND, $gain * $direct * cos($angle), $gain * $direct * sin($angle)];
        }

        return $reflections;
    }
}
