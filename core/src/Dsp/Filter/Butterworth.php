<?php

declare(strict_types=1);

namespace Hafen\Dsp\Filter;

/**
 * Butterworth filters of any order as second-order sections: maximally flat, -3.01 dB at the cutoff,
 * 6 dB/octave for each order.
 *
 * Source: S. Butterworth 1930; the sections' Q are 1/(2 cos(angle)) of the pole angles.
 */
final class Butterworth
{
    /**
     * @param  int  $order  1 to 8
     * @return list<BiquadCoefficients>
     */
    public static function highPass(float $frequency, int $order, int $sampleRate): array
    {
        $sections = array_map(
            static fn (float $q): BiquadCoefficients => BiquadCoefficients::highPass($frequency, $q, $sampleRate),
            self::qualities($order),
        );

        return $order % 2 === 1 ? [BiquadCoefficients::firstOrderHighPass($frequency, $sampleRate), ...$sections] : $sections;
    }

    /**
     * @param  int  $order  1 to 8
     * @return list<BiquadCoefficients>
     */
    public static function lowPass(float $frequency, int $order, int $sampleRate): array
    {
        $sections = array_map(
            static fn (float $q): BiquadCoefficients => BiquadCoefficients::lowPass($frequency, $q, $sampleRate),
            self::qualities($order),
        );

        return $order % 2 === 1 ? [BiquadCoefficients::firstOrderLowPass($frequency, $sampleRate), ...$sections] : $sections;
    }

    /** @return list<float> Q of each second-order section */
    private static function qualities(int $order): array
    {
        $qualities = [];
        for ($k = 1; $k <= intdiv($order, 2); ++$k) {
            $qualities[] = 1 / (2 * sin(M_PI * (2 * $k - 1) / (2 * $order)));
        }

        return $qualities;
    }
}
