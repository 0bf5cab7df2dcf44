<?php

declare(strict_types=1);

namespace Hafen\Metering;

/**
 * The bands a third of an octave wide from 25 Hz to 20 kHz.
 *
 * Source: IEC 61260-1 with base ten (from memory): band n is centred on 10^(n/10) Hz, its edges lie half a band away.
 */
final readonly class ThirdOctaves
{
    private const FIRST = 14;

    private const LAST = 43;

    /** @return list<float> Hz, those whose band begins below half the sample rate */
    public static function centres(int $sampleRate): array
    {
        $centres = [];
        for ($n = self::FIRST; $n <= self::LAST && 10.0 ** (($n - 0.5) / 10.0) < 0.5 * $sampleRate; ++$n) {
            $centres[] = 10.0 ** ($n / 10.0);
        }

        return $centres;
    }

    /** @return array<string, BandWeights> by centre, over the bins of windows of a size */
    public static function weights(int $sampleRate, int $windowSize): array
    {
        $weights = [];
        foreach (self::centres($sampleRate) as $centre) {
            $weights[sprintf('%.1f Hz', $centre)] = BandWeights::between(
                $centre * 10.0 ** -0.05,
                min(0.5 * $sampleRate, $centre * 10.0 ** 0.05),
                $sampleRate / $windowSize,
                intdiv($windowSize, 2) + 1,
            );
        }

        return $weights;
    }
}
