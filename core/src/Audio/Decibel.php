<?php

declare(strict_types=1);

namespace Hafen\Audio;

/**
 * Levels and gains in decibels. `null` is silence (minus infinity) everywhere in Hafen.
 *
 * Source: 20 log10 of an amplitude ratio, 10 log10 of a power ratio (definition).
 */
final class Decibel
{
    /** Amplitude factor of a gain in dB; null gives 0.0. */
    public static function toGain(?float $decibels): float
    {
        return $decibels === null ? 0.0 : 10.0 ** ($decibels / 20.0);
    }

    /** Gain in dB of an amplitude (its sign does not matter); null for 0. */
    public static function fromGain(float $amplitude): ?float
    {
        $size = abs($amplitude);

        // Where a sum ran over, what can be said is that it is huge.
        return $size > 0.0 ? 20.0 * log10(min($size, PHP_FLOAT_MAX)) : null;
    }

    /** Level in dB of a mean square; null for 0. */
    public static function fromPower(float $meanSquare): ?float
    {
        return $meanSquare > 0.0 ? 10.0 * log10(min($meanSquare, PHP_FLOAT_MAX)) : null;
    }

    /** "−6.0 dB", with a real minus sign and one decimal. */
    public static function text(?float $decibels, string $unit = 'dB', bool $signed = false): string
    {
        if ($decibels === null) {
            return "\u{2212}\u{221E} {$unit}";
        }
        $rounded = round($decibels, 1);
        $sign = $rounded < 0.0 ? "\u{2212}" : ($signed && $rounded > 0.0 ? '+' : '');

        return $sign.number_format(abs($rounded), 1, '.', '')." {$unit}";
    }
}
