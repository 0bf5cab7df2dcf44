<?php

declare(strict_types=1);

namespace Hafen\Metering;

use Hafen\Dsp\Spectrum\HannWindow;

/**
 * Keeps between which levels bands of a sound move, however long it plays: counts of windows by level, in steps of half a dB.
 *
 * Source: the 10th and the 95th percentile as EBU Tech 3342 takes them for the loudness range, here of RMS by band. What is more
 * than {@see self::REACH} dB below the loudest window counts as a pause (practice).
 */
final class BandRanges
{
    /** dB below the loudest window up to which a band sounds. */
    public const REACH = 40.0;

    private const LOWEST = -120.0;

    private const HIGHEST = 36.0;

    private const STEPS_A_DECIBEL = 2;

    private const QUIET = 0.10;

    private const LOUD = 0.95;

    /** @var array<string, array<int, int>> windows by level, by band */
    private array $counts = [];

    /** @var array<string, float> mean square in the last window by band */
    private array $now = [];

    /** @param  array<string, BandWeights>  $bands  over the bins of the windows */
    public function __construct(private readonly array $bands, private readonly int $windowSize)
    {
        foreach (array_keys($bands) as $band) {
            $this->counts[$band] = [];
            $this->now[$band] = 0.0;
        }
    }

    /**
     * Takes in one of the {@see PowerWindows}.
     *
     * @param  list<float>  $left
     * @param  list<float>  $right
     */
    public function add(array $left, array $right): void
    {
        // Mean square over both sides; half of the power lies at negative frequencies.
        $scale = 1.0 / (HannWindow::MEAN_SQUARE * $this->windowSize * $this->windowSize);
        foreach ($this->bands as $band => $weights) {
            $power = $scale * ($weights->of($left) + $weights->of($right));
            $this->now[$band] = $power;
            $level = $power > 0.0 ? 10.0 * log10($power) : self::LOWEST;
            if ($level > self::LOWEST) {
                $step = (int) round(self::STEPS_A_DECIBEL * min(self::HIGHEST, $level));
                $this->counts[$band][$step] = ($this->counts[$band][$step] ?? 0) + 1;
            }
        }
    }

    /** @return array<string, BandRange> by band */
    public function read(): array
    {
        $ranges = [];
        foreach ($this->counts as $band => $counts) {
            $now = $this->now[$band];
            $ranges[$band] = new BandRange($now > 1e-12 ? 10.0 * log10($now) : null, self::level($counts, self::QUIET), self::level($counts, self::LOUD));
        }

        return $ranges;
    }

    /** @param  array<int, int>  $counts */
    private static function level(array $counts, float $share): ?float
    {
        if ($counts === []) {
            return null;
        }
        ksort($counts);
        $lowest = array_key_last($counts) - self::REACH * self::STEPS_A_DECIBEL;
        $sounding = array_filter($counts, static fn (int $step): bool => $step >= $lowest, ARRAY_FILTER_USE_KEY);
        $below = $share * array_sum($sounding);
        $step = $lowest;
        foreach ($sounding as $step => $count) {
            $below -= $count;
            if ($below <= 0.0) {
                break;
            }
        }

        return $step / self::STEPS_A_DECIBEL;
    }
}
