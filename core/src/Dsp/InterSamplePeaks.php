<?php

declare(strict_types=1);

namespace Hafen\Dsp;

use Hafen\Audio\KaiserWindow;

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

    /** @var list<list<float>> three phases; the fourth is the sample itself */
    private static ?array $phases = null;

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
     * @param  list<float>  $samples
     * @return list<float> amplitudes, 0 or more
     */
    public function process(array $samples): array
    {
        $n = count($samples);
        $x = [...$this->history, ...$samples];
        $this->history = array_slice($x, $n);
        [$p, $q, $r] = self::$phases ?? self::phases();
        $taps = self::TAPS;
        $sampleAt = self::TAPS - 1 - self::DELAY;
        for ($i = 0; $i < $n; ++$i) {
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
            $samples[$i] = $d > $peak ? $d : $peak;
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
