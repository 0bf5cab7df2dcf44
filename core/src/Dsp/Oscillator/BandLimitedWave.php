<?php

declare(strict_types=1);

namespace Hafen\Dsp\Oscillator;

/**
 * Cycles of the usual waves with no harmonic above half the sample rate, one for every quarter of an octave.
 *
 * Source: Fourier series; saw 2/pi sum (-1)^(k+1) sin(kx)/k, square 4/pi sum sin(kx)/k over odd k, triangle 8/pi^2 sum (-1)^((k-1)/2)
 * sin(kx)/k^2 over odd k.
 */
final class BandLimitedWave
{
    /** Samples of a cycle; one more stands behind it for interpolation. */
    public const SIZE = 2048;

    public const WAVES = ['saw' => 'Saw', 'square' => 'Square', 'triangle' => 'Triangle', 'sine' => 'Sine'];

    private const TABLES_PER_OCTAVE = 4;

    private const LOWEST = 8.0;

    /** @var array<string, list<float>> */
    private static array $cycles = [];

    /**
     * The cycle for a frequency in Hz.
     *
     * @return list<float>
     */
    public static function cycle(string $wave, float $frequency, int $sampleRate): array
    {
        $step = $wave === 'sine' ? 0 : max(0, (int) ceil(self::TABLES_PER_OCTAVE * log(max(self::LOWEST, $frequency) / self::LOWEST, 2.0)));

        return self::$cycles["{$wave}:{$step}:{$sampleRate}"] ??= self::made($wave, self::LOWEST * 2.0 ** ($step / self::TABLES_PER_OCTAVE), $sampleRate);
    }

    /** @return list<float> */
    private static function made(string $wave, float $highest, int $sampleRate): array
    {
        $harmonics = $wave === 'sine' ? 1 : max(1, min(intdiv(self::SIZE, 4), (int) floor(0.5 * $sampleRate / $highest)));
        $cycle = array_fill(0, self::SIZE + 1, 0.0);
        for ($k = 1; $k <= $harmonics; $k += $wave === 'saw' || $wave === 'sine' ? 1 : 2) {
            $amplitude = match ($wave) {
                'saw' => M_2_PI / $k * ($k % 2 === 1 ? 1.0 : -1.0),
                'square' => 2.0 * M_2_PI / $k,
                'triangle' => 8.0 / M_PI ** 2 / ($k * $k) * ($k % 4 === 1 ? 1.0 : -1.0),
                default => 1.0,
            };
            // Source: sin((i+1)a) = 2 cos(a) sin(ia) - sin((i-1)a).
            $turn = 2.0 * M_PI * $k / self::SIZE;
            $twice = 2.0 * cos($turn);
            $before = -sin($turn);
            $now = 0.0;
            for ($i = 0; $i <= self::SIZE; ++$i) {
                $cycle[$i] += $amplitude * $now;
                $next = $twice * $now - $before;
                $before = $now;
                $now = $next;
            }
        }

        return $cycle;
    }
}
