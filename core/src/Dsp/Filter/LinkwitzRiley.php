<?php

declare(strict_types=1);

namespace Hafen\Dsp\Filter;

/**
 * Crossovers of 24 dB/octave whose bands add up to a flat magnitude: -6.02 dB in both bands at the crossover.
 *
 * Each half is a second-order Butterworth twice. Their sum is an all-pass; where there are more than two bands, the lower
 * ones go through the all-passes of the crossovers above them, so that all have turned by the same when they meet.
 * Source: S. H. Linkwitz and E. R. Riley, "Active crossover networks for non-coincident drivers", JAES 1976.
 */
final class LinkwitzRiley
{
    /**
     * The sections of one band, counted from the lowest.
     *
     * @param  list<float>  $crossovers  Hz, rising
     * @return array<string, BiquadCoefficients> named, so that they keep their state while a crossover moves
     */
    public static function band(int $band, array $crossovers, int $sampleRate): array
    {
        $sections = [];
        foreach ($crossovers as $index => $frequency) {
            $frequency = min($frequency, 0.49 * $sampleRate);
            if ($index < $band) {
                $sections["high {$index} a"] = $sections["high {$index} b"] = BiquadCoefficients::highPass($frequency, M_SQRT1_2, $sampleRate);
            } elseif ($index === $band) {
                $sections["low {$index} a"] = $sections["low {$index} b"] = BiquadCoefficients::lowPass($frequency, M_SQRT1_2, $sampleRate);
            } else {
                $sections["turn {$index}"] = BiquadCoefficients::allPass($frequency, M_SQRT1_2, $sampleRate);
            }
        }

        return $sections;
    }
}
