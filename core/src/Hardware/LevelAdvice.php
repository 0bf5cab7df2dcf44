<?php

declare(strict_types=1);

namespace Hafen\Hardware;

use Hafen\Audio\Decibel;

/**
 * What to change at the amplifier of an input, after its loudest passage was played.
 *
 * Source: practice. Peaks from -12 to -6 dBFS, the average near -18: loud enough to stand above the noise, and room for what comes louder.
 */
final readonly class LevelAdvice
{
    public const LOWEST_PEAK = -12.0;

    public const HIGHEST_PEAK = -6.0;

    public const AVERAGE = -18.0;

    /** Below this nobody plays, in dBFS. */
    private const QUIET = -50.0;

    /** How much lower to try where it clipped: how loud it was nobody knows. */
    private const STEP_DOWN = -12.0;

    /** @param  float  $change  of the gain, in dB */
    private function __construct(public float $change, public string $text)
    {
    }

    /**
     * @param  list<array{?float, ?float, int}>  $readings  peak and average in dBFS, null is silence, and clipped samples, a few times a second
     * @param  float  $gain  of the amplifier as it is, in dB
     */
    public static function of(array $readings, float $gain): self
    {
        $clipped = array_sum(array_column($readings, 2));
        if ($clipped > 0) {
            $change = self::within($gain, self::STEP_DOWN);

            return new self($change, "{$clipped} samples were clipped: turn it down by ".Decibel::text(-$change, 'dB').', and play it again.');
        }
        $played = array_values(array_filter($readings, static fn (array $reading): bool => $reading[0] !== null && $reading[0] > self::QUIET));
        if ($played === []) {
            return new self(0.0, 'Nothing came in. Is it plugged in, and does somebody play?');
        }
        $peak = max(array_column($played, 0));
        $squares = array_map(static fn (array $reading): float => 10.0 ** (($reading[1] ?? -120.0) / 10), $played);
        $average = 10.0 * log10(array_sum($squares) / count($squares));
        $is = 'Peaks at '.Decibel::text($peak, 'dBFS').', on average '.Decibel::text($average, 'dBFS');
        if ($peak >= self::LOWEST_PEAK && $peak <= self::HIGHEST_PEAK) {
            return new self(0.0, "{$is}: a healthy level.");
        }
        // The average where it should be, as far as the peaks allow.
        $wanted = round(min(self::HIGHEST_PEAK - $peak, max(self::LOWEST_PEAK - $peak, self::AVERAGE - $average)));
        $change = self::within($gain, $wanted);
        $far = abs($change - $wanted) < 0.05 ? '' : ' The amplifier goes no further.';

        return new self($change, abs($change) < 0.05 ? "{$is}.{$far}" : "{$is}: ".($change < 0 ? 'turn it down by ' : 'turn it up by ').Decibel::text(abs($change), 'dB').".{$far}");
    }

    private static function within(float $gain, float $change): float
    {
        return min(InputPort::HIGHEST_GAIN, max(InputPort::LOWEST_GAIN, $gain + $change)) - $gain;
    }
}
