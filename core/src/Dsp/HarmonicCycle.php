<?php

declare(strict_types=1);

namespace Hafen\Dsp;

/** One cycle made of harmonics, with peaks at 1. */
final class HarmonicCycle
{
    public const SIZE = 2048;

    /**
     * @param  list<float>  $harmonics  amplitude of the first, second, ... harmonic
     * @return list<float> one sample more than a cycle, for interpolation
     */
    public static function of(array $harmonics): array
    {
        $cycle = [];
        for ($i = 0; $i <= self::SIZE; ++$i) {
            $sum = 0.0;
            foreach ($harmonics as $k => $amplitude) {
                $sum += $amplitude * sin(2 * M_PI * ($k + 1) * $i / self::SIZE + 0.7 * $k);
            }
            $cycle[] = $sum;
        }
        $peak = max(max($cycle), -min($cycle));

        return array_map(static fn (float $sample): float => $sample / $peak, $cycle);
    }
}
