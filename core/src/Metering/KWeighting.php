<?php

declare(strict_types=1);

namespace Hafen\Metering;

use Hafen\Dsp\Filter\BiquadCoefficients;

/**
 * The weighting loudness is measured with: a shelf for the head, then a high-pass, at any sample rate.
 *
 * Source: ITU-R BS.1770 annex 1, which gives coefficients for 48 kHz; the analogue filters behind them, from which other rates
 * follow, are from memory and compared with those coefficients in the tests.
 */
final class KWeighting
{
    /** @return array<string, BiquadCoefficients> */
    public static function sections(int $sampleRate): array
    {
        return ['head' => self::head($sampleRate), 'high-pass' => self::highPass($sampleRate)];
    }

    private static function head(int $sampleRate): BiquadCoefficients
    {
        $k = tan(M_PI * 1681.974450955533 / $sampleRate);
        $q = 0.7071752369554196;
        $high = 10.0 ** (3.999843853973347 / 20.0);
        $band = $high ** 0.4996667741545416;
        $a0 = 1.0 + $k / $q + $k * $k;

        return new BiquadCoefficients(
            ($high + $band * $k / $q + $k * $k) / $a0,
            2.0 * ($k * $k - $high) / $a0,
            ($high - $band * $k / $q + $k * $k) / $a0,
            2.0 * ($k * $k - 1.0) / $a0,
            (1.0 - $k / $q + $k * $k) / $a0,
        );
    }

    private static function highPass(int $sampleRate): BiquadCoefficients
    {
        $k = tan(M_PI * 38.13547087602444 / $sampleRate);
        $q = 0.5003270373238773;
        $a0 = 1.0 + $k / $q + $k * $k;

        return new BiquadCoefficients(1.0, -2.0, 1.0, 2.0 * ($k * $k - 1.0) / $a0, (1.0 - $k / $q + $k * $k) / $a0);
    }
}
