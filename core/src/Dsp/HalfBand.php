<?php

declare(strict_types=1);

namespace Hafen\Dsp;

use Hafen\Audio\KaiserWindow;

/**
 * Doubles or halves the sample rate with a linear-phase half-band filter.
 *
 * Every second tap of such a filter is 0 and its middle tap is 1/2, so one of the two phases is a plain delay and the
 * other a symmetric sum (standard polyphase form, e.g. Crochiere & Rabiner 1983). One instance serves one side of one path.
 */
final class HalfBand
{
    /** @var list<float> first half of the taps that are not 0 */
    private readonly array $taps;

    /** @var list<float> */
    private array $upHistory;

    /** @var list<float> */
    private array $evenHistory;

    /** @var list<float> */
    private array $oddHistory;

    /**
     * @param  int  $pairs  symmetric pairs of taps, a multiple of 4; the filter has 4 * pairs - 1 taps
     * @param  float  $beta  Kaiser beta: 7.0 for a stop band of about 70 dB
     */
    public function __construct(private readonly int $pairs, float $beta = 7.0)
    {
        $all = KaiserWindow::lowPass(4 * $pairs - 1, 0.25, $beta);
        $taps = [];
        for ($i = 0; $i < $pairs; ++$i) {
            $taps[] = $all[2 * $i];
        }
        // The two phases must have the same gain at 0 Hz, or the rounded sum leaves a trace at half the rate.
        $sum = 4 * array_sum($taps);
        $this->taps = array_map(static fn (float $tap): float => $tap / $sum, $taps);
        $this->reset();
    }

    /** Delay of going up and down again, in samples of the lower rate. */
    public function delay(): int
    {
        return 2 * $this->pairs - 1;
    }

    public function reset(): void
    {
        $this->upHistory = $this->evenHistory = array_fill(0, 2 * $this->pairs - 1, 0.0);
        $this->oddHistory = array_fill(0, $this->pairs, 0.0);
    }

    /** Takes over the sound another one of the same length has heard. */
    public function continueFrom(self $other): void
    {
        $this->upHistory = $other->upHistory;
        $this->evenHistory = $other->evenHistory;
        $this->oddHistory = $other->oddHistory;
    }

    /**
     * @param  list<float>  $samples
     * @return list<float> twice as many
     */
    public function up(array $samples): array
    {
        $n = count($samples);
        $x = [...$this->upHistory, ...$samples];
        $this->upHistory = array_slice($x, $n);
        $sums = $this->weighed($x, $n, array_fill(0, $n, 0.0));
        $middle = $this->pairs;
        $out = [];
        for ($i = 0; $i < $n; ++$i) {
            $out[] = 2.0 * $sums[$i];
            $out[] = $x[$i + $middle];
        }

        return $out;
    }

    /**
     * @param  list<float>  $samples
     * @return list<float> half as many
     */
    public function down(array $samples): array
    {
        $even = $this->evenHistory;
        $odd = $this->oddHistory;
        $n = count($samples) >> 1;
        for ($i = 0; $i < $n; ++$i) {
            $even[] = $samples[2 * $i];
            $odd[] = $samples[2 * $i + 1];
        }
        $this->evenHistory = array_slice($even, $n);
        $this->oddHistory = array_slice($odd, $n);
        $out = [];
        for ($i = 0; $i < $n; ++$i) {
            $out[] = 0.5 * $odd[$i];
        }

        return $this->weighed($even, $n, $out);
    }

    /**
     * Adds the symmetric sum to each of n places, four pairs of taps in one pass.
     *
     * @param  list<float>  $x
     * @param  list<float>  $sums
     * @return list<float>
     */
    private function weighed(array $x, int $n, array $sums): array
    {
        $last = 2 * $this->pairs - 1;
        for ($k = 0; $k < $this->pairs; $k += 4) {
            [$p, $q, $r, $s] = [$this->taps[$k], $this->taps[$k + 1], $this->taps[$k + 2], $this->taps[$k + 3]];
            $sums = self::pass($x, $n, $sums, $k, $last - $k, $p, $q, $r, $s);
        }

        return $sums;
    }

    /**
     * @param  list<float>  $x
     * @param  list<float>  $sums
     * @return list<float>
     */
    private static function pass(array $x, int $n, array $sums, int $back, int $front, float $p, float $q, float $r, float $s): array
    {
        for ($i = 0; $i < $n; ++$i) {
            $sums[$i] += $p * ($x[$i + $front] + $x[$i + $back])
                + $q * ($x[$i + $front - 1] + $x[$i + $back + 1])
                + $r * ($x[$i + $front - 2] + $x[$i + $back + 2])
                + $s * ($x[$i + $front - 3] + $x[$i + $back + 3]);
        }

        return $sums;
    }
}
