<?php

declare(strict_types=1);

namespace Hafen\Session\Channel;

/**
 * How a fader's travel is marked: finer at the top, coarser the further down it stands.
 *
 * The way from the lowest to the highest gain goes evenly in 10^(gain / 45 dB); the control on the screen is drawn by the same law.
 */
final class FaderScale
{
    public const LOWEST = -60.0;

    public const HIGHEST = 12.0;

    /** The highest gain a document may hold. */
    public const HIGHEST_AUTOMATED = 24.0;

    private const SPREAD = 45.0;

    /** dB between two entries of the table. */
    private const TABLE_STEP = 0.5;

    /** Where a gain stands, 0 to 1 and above where it is higher than the highest; silence is 0. */
    public static function travelAt(?float $gain): float
    {
        $low = self::power(self::LOWEST);

        return $gain === null || $gain <= self::LOWEST ? 0.0 : (self::power($gain) - $low) / (1.0 - $low);
    }

    /** The gain that stands at a place; null is silence. */
    public static function gainAt(float $travel): ?float
    {
        $low = self::power(self::LOWEST);

        return $travel <= 0.0 ? null : self::HIGHEST + self::SPREAD * log10($low + $travel * (1.0 - $low));
    }

    /** dB that a hundredth of the travel makes at a gain. */
    public static function resolutionAt(float $gain): float
    {
        $low = self::power(self::LOWEST);
        $here = self::power(max(self::LOWEST, $gain));

        return 0.01 * (1.0 - $low) * self::SPREAD / (M_LN10 * $here);
    }

    /**
     * The travel at evenly spaced gains, for a control that is drawn while it moves.
     *
     * @return array{lowest: float, highest: float, highestAutomated: float, step: float, travels: list<float>} dB; travels from the lowest gain on, up to the highest gain automation may hold
     */
    public static function table(): array
    {
        $travels = [];
        for ($index = 0, $count = (int) round((self::HIGHEST_AUTOMATED - self::LOWEST) / self::TABLE_STEP); $index <= $count; ++$index) {
            $travels[] = round(self::travelAt(self::LOWEST + $index * self::TABLE_STEP), 9);
        }

        return ['lowest' => self::LOWEST, 'highest' => self::HIGHEST, 'highestAutomated' => self::HIGHEST_AUTOMATED, 'step' => self::TABLE_STEP, 'travels' => $travels];
    }

    private static function power(float $gain): float
    {
        return 10.0 ** (($gain - self::HIGHEST) / self::SPREAD);
    }
}
