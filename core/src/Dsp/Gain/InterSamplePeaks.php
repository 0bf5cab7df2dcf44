<?php

declare(strict_types=1);

namespace Hafen\Dsp\Gain;

use Hafen\Audio\KaiserWindow;
use Hafen\Audio\Samples;

/**
 * How high the waveform rises between samples: the largest of four interpolated places after each sample.
 *
 * Source: ITU-R BS.1770 annex 2 (four times oversampling, 48 taps); the filter here is a Kaiser design of the same
 * length, flat within 0.05 dB to 0.4 of the rate. The result for a sample comes {@see DELAY} samples later.
 */
final class InterSamplePeaks
{
    public const DELAY = 6;

    private const TAPS = 12;

    /** Samples looked at together. */
    private const CHUNK = 32;

    /** @var list<list<float>> three phases; the fourth is the sample itself */
    private static ?array $phases = null;

    /** @var ?array{float, float} see {@see bound()} */
    private static ?array $shares = null;

    /** @var list<float> */
    private array $history;

    public function __construct()
    {
        self::$phases ??= self::phases();
        $this->reset();
    }

    public function reset(): void
    {
        $this->history = array_fill(0, self::TAPS - 1, 0.0);
    }

    /**
     * The highest place among some more samples, as {@see process()} would find it, where it is higher than what is known
     * already; that much otherwise. Places too quiet to be higher are not worked out.
     *
     * @param  list<float>  $samples
     */
    public function highest(array $samples, float $known): float
    {
        $n = count($samples);
        if ($n === 0) {
            return $known;
        }
        $before = $this->history;
        $this->history = array_slice($n < self::TAPS ? [...$before, ...$samples] : $samples, 1 - self::TAPS);
        $last = $before[self::TAPS - 2];
        [$earlierPeak, $earlierBend] = self::extent($before);
        [$peak, $bend] = self::extent($samples, $last, $last - $before[self::TAPS - 3]);
        if (self::bound(max($earlierPeak, $peak), max($earlierBend, $bend)) <= $known) {
            return $known;
        }
        $x = [...$before, ...$samples];
        for ($i = 0; $i < $n; $i += self::CHUNK) {
            $chunk = array_slice($x, $i, self::CHUNK + self::TAPS - 1);
            if (self::bound(...self::extent($chunk)) > $known) {
                $known = max($known, Samples::peak(self::between($chunk)));
            }
        }

        return $known;
    }

    /**
     * @param  list<float>  $samples
     * @return list<float> amplitudes, 0 or more
     */
    public function process(array $samples): array
    {
        $x = [...$this->history, ...$samples];
        $this->history = array_slice($x, count($samples));

        return self::between($x);
    }

    /**
     * @param  list<float>  $x  with the samples before them
     * @return list<float>
     */
    private static function between(array $x): array
    {
        [$p, $q] = self::$phases ??= self::phases();
        [$p0, $p1, $p2, $p3, $p4, $p5, $p6, $p7, $p8, $p9, $p10, $p11] = $p;
        [$q0, $q1, $q2, $q3, $q4, $q5] = $q;
        [$x0, $x1, $x2, $x3, $x4, $x5, $x6, $x7, $x8, $x9, $x10] = $x;
        $peaks = [];
        // Written out: three times as fast as a loop over the taps. The place at 3/4 is the one at 1/4 seen from behind; the taps of the
        // half are the same from both ends.
        for ($i = self::TAPS - 1, $n = count($x); $i < $n; ++$i) {
            $x11 = $x[$i];
            $a = $p0 * $x0 + $p1 * $x1 + $p2 * $x2 + $p3 * $x3 + $p4 * $x4 + $p5 * $x5 + $p6 * $x6 + $p7 * $x7 + $p8 * $x8 + $p9 * $x9 + $p10 * $x10 + $p11 * $x11;
            $b = $q0 * ($x0 + $x11) + $q1 * ($x1 + $x10) + $q2 * ($x2 + $x9) + $q3 * ($x3 + $x8) + $q4 * ($x4 + $x7) + $q5 * ($x5 + $x6);
            $c = $p11 * $x0 + $p10 * $x1 + $p9 * $x2 + $p8 * $x3 + $p7 * $x4 + $p6 * $x5 + $p5 * $x6 + $p4 * $x7 + $p3 * $x8 + $p2 * $x9 + $p1 * $x10 + $p0 * $x11;
            $a *= $a;
            $b *= $b;
            $c *= $c;
            $d = $x5 * $x5;
            $peak = $a > $b ? $a : $b;
            if ($c > $peak) {
                $peak = $c;
            }
            $peaks[] = sqrt($d > $peak ? $d : $peak);
            $x0 = $x1;
            $x1 = $x2;
            $x2 = $x3;
            $x3 = $x4;
            $x4 = $x5;
            $x5 = $x6;
            $x6 = $x7;
            $x7 = $x8;
            $x8 = $x9;
            $x9 = $x10;
            $x10 = $x11;
        }

        return $peaks;
    }

    /**
     * The squares of the highest sample and of the highest second difference.
     *
     * @param  list<float>  $x
     * @param  ?float  $last  the sample before; where it is left out, a straight line led to the first two
     * @param  float  $slope  how much it was above the one before it
     * @return array{float, float}
     */
    private static function extent(array $x, ?float $last = null, float $slope = 0.0): array
    {
        $peak = $bend = 0.0;
        if ($last === null && isset($x[0], $x[1])) {
            $slope = $x[1] - $x[0];
            $last = $x[0] - $slope;
        }
        $last ??= 0.0;
        foreach ($x as $sample) {
            $change = $sample - $last;
            $second = $change - $slope;
            $last = $sample;
            $slope = $change;
            $sample *= $sample;
            $second *= $second;
            if ($sample > $peak) {
                $peak = $sample;
            }
            if ($second > $bend) {
                $bend = $second;
            }
        }

        return [$peak, $bend];
    }

    /**
     * What no place between samples is above, from their {@see extent()}.
     *
     * A place is what a straight line between its two neighbours gives, and a weighted sum of second differences (summation by parts),
     * which are small where the sound is low. That is why this lies much closer than the sum of the taps' amplitudes.
     */
    private static function bound(float $peak, float $bend): float
    {
        [$ofPeak, $ofBend] = self::$shares ??= self::shares();

        return $ofPeak * sqrt($peak) + $ofBend * sqrt($bend);
    }

    /** @return array{float, float} how much of the highest sample and of the highest second difference a place can be */
    private static function shares(): array
    {
        $ofPeak = $ofBend = 0.0;
        foreach (self::$phases ??= self::phases() as $number => $taps) {
            $fraction = 0.25 * ($number + 1);
            $taps[5] -= 1.0 - $fraction;
            $taps[6] -= $fraction;
            $once = $twice = $sum = 0.0;
            for ($k = 0; $k < self::TAPS - 1; ++$k) {
                $once += $taps[$k];
                $twice += $once;
                $sum += $k < self::TAPS - 2 ? abs($twice) : 0.0;
            }
            // What is left of the first difference, which is twice the highest sample at most.
            $ofPeak = max($ofPeak, 2.0 * abs($twice));
            $ofBend = max($ofBend, $sum);
        }

        return [(1.0 + $ofPeak) * (1.0 + 1e-9), $ofBend * (1.0 + 1e-9)];
    }

    /** @return list<list<float>> */
    private static function phases(): array
    {
        $phases = [];
        foreach ([0.25, 0.5, 0.75] as $fraction) {
            $taps = [];
            // The place lies between x[5] and x[6] of the twelve.
            for ($k = 0; $k < self::TAPS; ++$k) {
                $x = $k - 5 - $fraction;
                $taps[] = sin(M_PI * $x) / (M_PI * $x) * KaiserWindow::at($x / 6.0, 4.0);
            }
            $sum = array_sum($taps);
            $phases[] = array_map(static fn (float $tap): float => $tap / $sum, $taps);
        }

        return $phases;
    }
}
