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

    private static ?float $most = null;

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

    /** The most by which a place between samples can be higher than the highest sample around it. */
    public static function most(): float
    {
        return self::$most ??= max(1.0, ...array_map(static fn (array $taps): float => array_sum(array_map(abs(...), $taps)), self::$phases ??= self::phases()));
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
        $x = [...$this->history, ...$samples];
        $this->history = array_slice($x, $n);
        $limit = $known / self::most();
        for ($i = 0; $i < $n; $i += self::CHUNK) {
            $chunk = array_slice($x, $i, self::CHUNK + self::TAPS - 1);
            if (Samples::peak($chunk) > $limit) {
                $known = max($known, Samples::peak(self::between($chunk)));
                $limit = $known / self::most();
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
        [$p, $q, $r] = self::$phases ??= self::phases();
        $taps = self::TAPS;
        $sampleAt = self::TAPS - 1 - self::DELAY;
        $samples = [];
        for ($i = 0, $n = count($x) - $taps + 1; $i < $n; ++$i) {
            $a = $b = $c = 0.0;
            for ($k = 0; $k < $taps; ++$k) {
                $v = $x[$i + $k];
                $a += $p[$k] * $v;
                $b += $q[$k] * $v;
                $c += $r[$k] * $v;
            }
            $d = $x[$i + $sampleAt];
            if ($a < 0.0) {
                $a = -$a;
            }
            if ($b < 0.0) {
                $b = -$b;
            }
            if ($c < 0.0) {
                $c = -$c;
            }
            if ($d < 0.0) {
                $d = -$d;
            }
            $peak = $a > $b ? $a : $b;
            if ($c > $peak) {
                $peak = $c;
            }
            $samples[] = $d > $peak ? $d : $peak;
        }

        return $samples;
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
