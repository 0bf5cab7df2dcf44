<?php

declare(strict_types=1);

namespace Hafen\Dsp\Filter;

use Hafen\Audio\KaiserWindow;

/**
 * Doubles or halves the sample rate with a linear-phase half-band filter.
 *
 * Every second tap of such a filter is 0 and its middle tap is 1/2, so one of the two phases is a plain delay and the
 * other a symmetric sum (standard polyphase form, e.g. Crochiere & Rabiner 1983). The two lengths there are have a loop
 * each, written out, with its state in local variables. One instance serves one side of one path.
 */
final class HalfBand
{
    /** @var list<float> first half of the taps that are not 0 */
    private readonly array $taps;

    /** @var list<float> the same, twice: going up, half of the samples are new */
    private readonly array $upTaps;

    /** @var list<float> */
    private array $upState = [];

    /** @var list<float> */
    private array $downState = [];

    /** @var list<float> */
    private array $upHistory = [];

    /** @var list<float> */
    private array $oddHistory = [];

    /**
     * @param  bool  $steep  47 taps: flat to 0.4 of the lower rate, 70 dB down from 0.6; otherwise 15 taps, for a signal that
     *                       fills a quarter of the band
     */
    public function __construct(private readonly bool $steep)
    {
        $all = KaiserWindow::lowPass(4 * $this->pairs() - 1, 0.25, 7.0);
        $taps = [];
        for ($i = 0; $i < $this->pairs(); ++$i) {
            $taps[] = $all[2 * $i];
        }
        // The two phases must have the same gain at 0 Hz, or the rounded sum leaves a trace at half the rate.
        $sum = 4 * array_sum($taps);
        $this->taps = array_map(static fn (float $tap): float => $tap / $sum, $taps);
        $this->upTaps = array_map(static fn (float $tap): float => 2.0 * $tap, $this->taps);
        $this->reset();
    }

    /** Delay of going up and down again, in samples of the lower rate. */
    public static function delay(bool $steep): int
    {
        return $steep ? 23 : 7;
    }

    public function reset(): void
    {
        $this->upState = $this->downState = array_fill(0, 2 * $this->pairs() - 1, 0.0);
        $this->upHistory = array_fill(0, $this->pairs() - 1, 0.0);
        $this->oddHistory = array_fill(0, $this->pairs(), 0.0);
    }

    /**
     * @param  list<float>  $samples
     * @return list<float> twice as many
     */
    public function up(array $samples): array
    {
        $n = count($samples);
        $delayed = [...$this->upHistory, ...$samples];
        $this->upHistory = array_slice($delayed, $n);
        [$sums, $this->upState] = $this->sums($samples, $this->upTaps, $this->upState, 1);
        $out = [];
        for ($i = 0; $i < $n; ++$i) {
            $out[] = $sums[$i];
            $out[] = $delayed[$i];
        }

        return $out;
    }

    /**
     * @param  list<float>  $samples
     * @return list<float> half as many
     */
    public function down(array $samples): array
    {
        [$out, $this->downState] = $this->sums($samples, $this->taps, $this->downState, 2);
        $n = count($out);
        $pairs = $this->pairs();
        $odd = $this->oddHistory;
        if ($n < $pairs) {
            for ($i = 0; $i < $n; ++$i) {
                $odd[] = $samples[2 * $i + 1];
                $out[$i] += 0.5 * $odd[$i];
            }
            $this->oddHistory = array_slice($odd, $n);

            return $out;
        }
        for ($i = 0; $i < $pairs; ++$i) {
            $out[$i] += 0.5 * $odd[$i];
        }
        for ($j = 1; $i < $n; ++$i, $j += 2) {
            $out[$i] += 0.5 * $samples[$j];
        }
        $recent = [];
        for ($last = 2 * $n; $j < $last; $j += 2) {
            $recent[] = $samples[$j];
        }
        $this->oddHistory = $recent;

        return $out;
    }

    private function pairs(): int
    {
        return $this->steep ? 12 : 4;
    }

    /**
     * @param  list<float>  $x
     * @param  list<float>  $taps
     * @param  list<float>  $state
     * @param  int  $stride  1 for every sample, 2 for every second one
     * @return array{list<float>, list<float>} sums, state
     */
    private function sums(array $x, array $taps, array $state, int $stride): array
    {
        return $this->steep ? self::long($x, $taps, $state, $stride) : self::short($x, $taps, $state, $stride);
    }

    /**
     * 24 symmetric taps in transposed form: every product is used twice, every sample read once.
     *
     * @param  list<float>  $x
     * @param  list<float>  $taps
     * @param  list<float>  $state
     * @return array{list<float>, list<float>} sums, state
     */
    private static function long(array $x, array $taps, array $state, int $stride): array
    {
        [$t0, $t1, $t2, $t3, $t4, $t5, $t6, $t7, $t8, $t9, $t10, $t11] = $taps;
        [$s1, $s2, $s3, $s4, $s5, $s6, $s7, $s8, $s9, $s10, $s11, $s12, $s13, $s14, $s15, $s16, $s17, $s18, $s19, $s20, $s21, $s22, $s23] = $state;
        $out = [];
        for ($i = 0, $n = count($x); $i < $n; $i += $stride) {
            $v = $x[$i];
            $p0 = $t0 * $v;
            $p1 = $t1 * $v;
            $p2 = $t2 * $v;
            $p3 = $t3 * $v;
            $p4 = $t4 * $v;
            $p5 = $t5 * $v;
            $p6 = $t6 * $v;
            $p7 = $t7 * $v;
            $p8 = $t8 * $v;
            $p9 = $t9 * $v;
            $p10 = $t10 * $v;
            $p11 = $t11 * $v;
            $out[] = $p0 + $s1;
            $s1 = $p1 + $s2;
            $s2 = $p2 + $s3;
            $s3 = $p3 + $s4;
            $s4 = $p4 + $s5;
            $s5 = $p5 + $s6;
            $s6 = $p6 + $s7;
            $s7 = $p7 + $s8;
            $s8 = $p8 + $s9;
            $s9 = $p9 + $s10;
            $s10 = $p10 + $s11;
            $s11 = $p11 + $s12;
            $s12 = $p11 + $s13;
            $s13 = $p10 + $s14;
            $s14 = $p9 + $s15;
            $s15 = $p8 + $s16;
            $s16 = $p7 + $s17;
            $s17 = $p6 + $s18;
            $s18 = $p5 + $s19;
            $s19 = $p4 + $s20;
            $s20 = $p3 + $s21;
            $s21 = $p2 + $s22;
            $s22 = $p1 + $s23;
            $s23 = $p0;
        }

        return [$out, [$s1, $s2, $s3, $s4, $s5, $s6, $s7, $s8, $s9, $s10, $s11, $s12, $s13, $s14, $s15, $s16, $s17, $s18, $s19, $s20, $s21, $s22, $s23]];
    }

    /**
     * 8 symmetric taps in transposed form: every product is used twice, every sample read once.
     *
     * @param  list<float>  $x
     * @param  list<float>  $taps
     * @param  list<float>  $state
     * @return array{list<float>, list<float>} sums, state
     */
    private static function short(array $x, array $taps, array $state, int $stride): array
    {
        [$t0, $t1, $t2, $t3] = $taps;
        [$s1, $s2, $s3, $s4, $s5, $s6, $s7] = $state;
        $out = [];
        for ($i = 0, $n = count($x); $i < $n; $i += $stride) {
            $v = $x[$i];
            $p0 = $t0 * $v;
            $p1 = $t1 * $v;
            $p2 = $t2 * $v;
            $p3 = $t3 * $v;
            $out[] = $p0 + $s1;
            $s1 = $p1 + $s2;
            $s2 = $p2 + $s3;
            $s3 = $p3 + $s4;
            $s4 = $p3 + $s5;
            $s5 = $p2 + $s6;
            $s6 = $p1 + $s7;
            $s7 = $p0;
        }

        return [$out, [$s1, $s2, $s3, $s4, $s5, $s6, $s7]];
    }
}
