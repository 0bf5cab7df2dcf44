<?php

declare(strict_types=1);

namespace Hafen\Dsp\Pitch;

use Hafen\Dsp\Spectrum\Fft;

/**
 * The period of a single voice, found in a window of its sound.
 *
 * Source: P. McLeod, G. Wyvill, "A smarter way to find pitch", ICMC 2005: the first strong peak of the normalised square difference, here
 * at a quarter of the rate by FFT; refined at the full rate by the least square difference and a parabola around it.
 */
final class PitchTracker
{
    /** Samples looked at, at rates up to about 68 kHz; more above. */
    public const WINDOW = 2048;

    private const DIVISION = 4;

    private const CLARITY = 0.75;

    /** Samples looked at. */
    public readonly int $window;

    private readonly Fft $fft;

    public function __construct(private readonly int $sampleRate, private readonly float $lowest = 70.0, private readonly float $highest = 1000.0)
    {
        $this->window = self::WINDOW * self::scale($sampleRate);
        $this->fft = new Fft(intdiv(2 * $this->window, self::DIVISION));
    }

    /** By how much lengths meant for 48 kHz are longer at a rate: 1, 2 or 4. */
    public static function scale(int $sampleRate): int
    {
        return 1 << max(0, (int) round(log($sampleRate / 48000.0, 2.0)));
    }

    /**
     * The period in the middle of a window.
     *
     * @param  list<float>  $window  {@see $window} samples
     * @return ?float samples, null where there is no clear pitch
     */
    public function period(array $window): ?float
    {
        $size = intdiv($this->window, self::DIVISION);
        $coarse = [];
        $energy = 0.0;
        for ($i = 0; $i < $size; ++$i) {
            $at = self::DIVISION * $i;
            $mean = 0.25 * ($window[$at] + $window[$at + 1] + $window[$at + 2] + $window[$at + 3]);
            $energy += $mean * $mean;
            $coarse[] = $mean;
        }
        if ($energy < 1e-7 * $size) {
            return null;
        }
        $lag = $this->coarseLag($coarse, $energy);

        return $lag === null ? null : self::refined($window, $lag);
    }

    /**
     * @param  list<float>  $samples
     * @return ?float lag in samples of the full rate
     */
    private function coarseLag(array $samples, float $energy): ?float
    {
        $size = count($samples);
        $longest = min($size >> 1, (int) ceil($this->sampleRate / self::DIVISION / $this->lowest));
        $shortest = max(2, (int) floor($this->sampleRate / self::DIVISION / $this->highest));
        $silence = array_fill(0, $size, 0.0);
        [$re, $im] = $this->fft->transform([...$samples, ...$silence], array_fill(0, 2 * $size, 0.0));
        for ($i = 0, $n = 2 * $size; $i < $n; ++$i) {
            $re[$i] = $re[$i] * $re[$i] + $im[$i] * $im[$i];
            $im[$i] = 0.0;
        }
        [$products] = $this->fft->transform(array_values($re), array_values($im));
        $scale = 1.0 / (2.0 * $size);
        $norm = 2.0 * $energy;
        $clarity = [1.0];
        for ($lag = 1; $lag <= $longest; ++$lag) {
            $head = $samples[$lag - 1];
            $tail = $samples[$size - $lag];
            $norm -= $head * $head + $tail * $tail;
            $clarity[] = $norm > 1e-12 ? 2.0 * $scale * $products[$lag] / $norm : 0.0;
        }
        // Peaks between zero crossings, from the first time it falls below zero.
        $peaks = [];
        $best = 0;
        $below = false;
        for ($lag = 1; $lag < $longest; ++$lag) {
            if ($clarity[$lag] <= 0.0) {
                if ($best > 0) {
                    $peaks[] = $best;
                }
                $best = 0;
                $below = true;
            } elseif ($below && $lag >= $shortest && $clarity[$lag] >= $clarity[$lag - 1] && $clarity[$lag] >= $clarity[$lag + 1] && ($best === 0 || $clarity[$lag] > $clarity[$best])) {
                $best = $lag;
            }
        }
        if ($best > 0) {
            $peaks[] = $best;
        }
        $highest = 0.0;
        foreach ($peaks as $peak) {
            $highest = max($highest, $clarity[$peak]);
        }
        if ($highest < self::CLARITY) {
            return null;
        }
        foreach ($peaks as $peak) {
            if ($clarity[$peak] >= 0.9 * $highest) {
                return self::DIVISION * ($peak + self::vertex($clarity[$peak - 1], $clarity[$peak], $clarity[$peak + 1]));
            }
        }

        return null;
    }

    /** @param  list<float>  $window */
    private static function refined(array $window, float $lag): float
    {
        $middle = (int) round($lag);
        $first = max(2, $middle - 4);
        $length = count($window) - $middle - 6;
        $differences = [];
        for ($shift = $first; $shift <= $middle + 4; ++$shift) {
            $sum = 0.0;
            for ($i = 0; $i < $length; $i += 2) {
                $d = $window[$i] - $window[$i + $shift];
                $sum += $d * $d;
            }
            $differences[] = $sum;
        }
        $least = 1;
        for ($k = 1, $last = count($differences) - 1; $k < $last; ++$k) {
            if ($differences[$k] < $differences[$least]) {
                $least = $k;
            }
        }

        return $first + $least + self::vertex($differences[$least - 1], $differences[$least], $differences[$least + 1]);
    }

    /** Where a parabola through three points has its vertex, from the middle one, -0.5 to 0.5. */
    private static function vertex(float $before, float $at, float $after): float
    {
        $curve = $before - 2.0 * $at + $after;

        return abs($curve) < 1e-15 ? 0.0 : max(-0.5, min(0.5, 0.5 * ($before - $after) / $curve));
    }
}
