<?php

declare(strict_types=1);

namespace Hafen\Dsp\Reverb;

use Hafen\Dsp\Lfo;

/**
 * Eight delays that feed each other through a Hadamard matrix, each with the loss and the damping of a decay time.
 *
 * Sources: J.-M. Jot, A. Chaigne, "Digital delay networks for designing artificial reverberators", AES 1991 (each line's gain gives the
 * decay time, its low-pass the damping). Four of the lines may wander a little, which keeps a long decay from ringing (J. Dattorro,
 * "Effect design 1", JAES 1997); their wandering follows the place in the session.
 */
final class FeedbackNetwork
{
    /** @var list<list<float>> */
    private array $lines = [];

    /** @var list<int> */
    private array $writeIndexes = [0, 0, 0, 0, 0, 0, 0, 0];

    /** @var non-empty-list<int> */
    private array $lengths = [64, 64, 64, 64, 64, 64, 64, 64];

    /** @var list<float> */
    private array $gains = [];

    /** @var list<float> */
    private array $poles = [];

    /** @var list<float> state of each line's low-pass */
    private array $lows = [0.0, 0.0, 0.0, 0.0, 0.0, 0.0, 0.0, 0.0];

    private float $width = 1.0;

    /** Samples by which lines wander each way. */
    private float $wander = 0.0;

    private readonly Lfo $lfo;

    /**
     * @param  non-empty-list<float>  $milliseconds  lengths of the eight lines at size 1; no two in a simple ratio
     * @param  float  $largest  size there must be room for
     * @param  float  $rate  Hz of the wandering
     */
    public function __construct(private readonly array $milliseconds, private readonly float $largest, private readonly int $sampleRate, float $rate = 0.7)
    {
        $this->lfo = new Lfo;
        $this->lfo->rate($rate, $sampleRate);
        $this->reset();
    }

    /**
     * @param  float  $decay  T60 in s at low and middle frequencies
     * @param  float  $damping  Hz where the decay has fallen to half
     * @param  float  $width  0 to 1
     * @param  float  $wander  ms by which lines wander each way
     */
    public function set(float $size, float $decay, float $damping, float $width, float $wander = 0.0): void
    {
        $rate = $this->sampleRate;
        $cosine = cos(2.0 * M_PI * min($damping, 0.45 * $rate) / $rate);
        $this->width = $width;
        $this->wander = $wander * $rate / 1000.0;
        $lengths = [];
        $this->gains = $this->poles = [];
        foreach ($this->milliseconds as $milliseconds) {
            $length = max(64, (int) round($milliseconds * $size * $rate / 1000.0));
            $gain = 10.0 ** (-3.0 * $length / $rate / $decay);
            // The pole that makes the line's gain fall by as much again at the damping frequency.
            $square = $gain * $gain;
            $a = 1.0 - $square * $cosine;
            $b = 1.0 - $square;
            $lengths[] = $length;
            $this->gains[] = $gain;
            $this->poles[] = $b < 1e-9 ? 0.0 : ($a - sqrt(max(0.0, $a * $a - $b * $b))) / $b;
        }
        $this->lengths = $lengths;
        $this->wander = min($this->wander, 0.2 * min($lengths));
    }

    /** Seeks to a session sample. */
    public function at(int $position): void
    {
        $this->lfo->at($position);
    }

    public function reset(): void
    {
        $this->lines = [];
        foreach ($this->milliseconds as $milliseconds) {
            $this->lines[] = array_fill(0, max(64, (int) ceil($milliseconds * $this->largest * $this->sampleRate / 1000.0)) + 8, 0.0);
        }
        $this->writeIndexes = [0, 0, 0, 0, 0, 0, 0, 0];
        $this->lows = [0.0, 0.0, 0.0, 0.0, 0.0, 0.0, 0.0, 0.0];
        $this->lfo->reset();
    }

    /**
     * Takes in both sides and gives the wet ones.
     *
     * @param  list<float>  $left
     * @param  list<float>  $right
     * @return array{list<float>, list<float>}
     */
    public function process(array $left, array $right): array
    {
        [$d0, $d1, $d2, $d3, $d4, $d5, $d6, $d7] = $this->lines;
        $this->lines = [];
        [$p0, $p1, $p2, $p3, $p4, $p5, $p6, $p7] = $this->writeIndexes;
        [$n0, $n1, $n2, $n3, $n4, $n5, $n6, $n7] = $this->lengths;
        [$g0, $g1, $g2, $g3, $g4, $g5, $g6, $g7] = $this->gains;
        [$c0, $c1, $c2, $c3, $c4, $c5, $c6, $c7] = $this->poles;
        [$s0, $s1, $s2, $s3, $s4, $s5, $s6, $s7] = $this->lows;
        // A smaller room wraps its lines earlier.
        $p0 %= $n0;
        $p1 %= $n1;
        $p2 %= $n2;
        $p3 %= $n3;
        $p4 %= $n4;
        $p5 %= $n5;
        $p6 %= $n6;
        $p7 %= $n7;
        $scale = 1.0 / sqrt(8.0);
        // What a wandering line gives was written before the range at work began.
        $longest = max(8, min($this->lengths) - (int) ceil(2.0 * $this->wander) - 2);
        $side = $this->width;
        $mid = 0.5;
        // As far as the next line that wraps, places are a fixed distance from the sample's number: no test in the loop.
        for ($done = 0, $frames = count($left); $done < $frames; $done = $end) {
            $end = min($frames, $done + min($longest, $n0 - $p0, $n1 - $p1, $n2 - $p2, $n3 - $p3, $n4 - $p4, $n5 - $p5, $n6 - $p6, $n7 - $p7));
            $o0 = $p0 - $done;
            $o1 = $p1 - $done;
            $o2 = $p2 - $done;
            $o3 = $p3 - $done;
            $o4 = $p4 - $done;
            $o5 = $p5 - $done;
            $o6 = $p6 - $done;
            $o7 = $p7 - $done;
            [$m1, $m3, $m4, $m6] = $this->wandering($end - $done, [$d1, $d3, $d4, $d6], [$p1, $p3, $p4, $p6], [$n1, $n3, $n4, $n6]);
            for ($i = $done; $i < $end; ++$i) {
                $s0 = $g0 * (1.0 - $c0) * $d0[$i + $o0] + $c0 * $s0 + 1e-280 - 1e-280;
                $s1 = $g1 * (1.0 - $c1) * $m1[$i - $done] + $c1 * $s1 + 1e-280 - 1e-280;
                $s2 = $g2 * (1.0 - $c2) * $d2[$i + $o2] + $c2 * $s2 + 1e-280 - 1e-280;
                $s3 = $g3 * (1.0 - $c3) * $m3[$i - $done] + $c3 * $s3 + 1e-280 - 1e-280;
                $s4 = $g4 * (1.0 - $c4) * $m4[$i - $done] + $c4 * $s4 + 1e-280 - 1e-280;
                $s5 = $g5 * (1.0 - $c5) * $d5[$i + $o5] + $c5 * $s5 + 1e-280 - 1e-280;
                $s6 = $g6 * (1.0 - $c6) * $m6[$i - $done] + $c6 * $s6 + 1e-280 - 1e-280;
                $s7 = $g7 * (1.0 - $c7) * $d7[$i + $o7] + $c7 * $s7 + 1e-280 - 1e-280;
                $a0 = $s0 + $s1;
                $a1 = $s0 - $s1;
                $a2 = $s2 + $s3;
                $a3 = $s2 - $s3;
                $a4 = $s4 + $s5;
                $a5 = $s4 - $s5;
                $a6 = $s6 + $s7;
                $a7 = $s6 - $s7;
                $b0 = $a0 + $a2;
                $b1 = $a1 + $a3;
                $b2 = $a0 - $a2;
                $b3 = $a1 - $a3;
                $b4 = $a4 + $a6;
                $b5 = $a5 + $a7;
                $b6 = $a4 - $a6;
                $b7 = $a5 - $a7;
                $l = $left[$i];
                $r = $right[$i];
                $d0[$i + $o0] = $scale * ($b0 + $b4) + $l;
                $d1[$i + $o1] = $scale * ($b1 + $b5) + $r;
                $d2[$i + $o2] = $scale * ($b2 + $b6) - $l;
                $d3[$i + $o3] = $scale * ($b3 + $b7) + $r;
                $d4[$i + $o4] = $scale * ($b0 - $b4) + $l;
                $d5[$i + $o5] = $scale * ($b1 - $b5) - $r;
                $d6[$i + $o6] = $scale * ($b2 - $b6) + $l;
                $d7[$i + $o7] = $scale * ($b3 - $b7) + $r;
                $outLeft = 0.5 * ($s0 - $s2 + $s4 + $s6);
                $outRight = 0.5 * ($s1 + $s3 - $s5 + $s7);
                $middle = $mid * ($outLeft + $outRight);
                $edge = $mid * $side * ($outLeft - $outRight);
                $left[$i] = $middle + $edge;
                $right[$i] = $middle - $edge;
            }
            $p0 = ($end + $o0) % $n0;
            $p1 = ($end + $o1) % $n1;
            $p2 = ($end + $o2) % $n2;
            $p3 = ($end + $o3) % $n3;
            $p4 = ($end + $o4) % $n4;
            $p5 = ($end + $o5) % $n5;
            $p6 = ($end + $o6) % $n6;
            $p7 = ($end + $o7) % $n7;
        }
        $this->lines = [$d0, $d1, $d2, $d3, $d4, $d5, $d6, $d7];
        $this->writeIndexes = [$p0, $p1, $p2, $p3, $p4, $p5, $p6, $p7];
        $this->lows = [$s0, $s1, $s2, $s3, $s4, $s5, $s6, $s7];

        return [$left, $right];
    }

    /**
     * What the wandering lines give for the next frames.
     *
     * @param  list<array<int, float>>  $lines
     * @param  list<int>  $writeIndexes
     * @param  list<int>  $lengths
     * @return list<list<float>>
     */
    private function wandering(int $frames, array $lines, array $writeIndexes, array $lengths): array
    {
        if ($this->wander === 0.0) {
            $this->lfo->advance($frames);

            return array_map(static fn (array $line, int $writeIndex): array => array_slice($line, $writeIndex, $frames), $lines, $writeIndexes);
        }
        [$phase, $turn, $since] = $this->lfo->angle();
        $this->lfo->advance($frames);
        $wander = $this->wander;
        $sines = $cosines = [];
        for ($i = 0; $i < $frames; ++$i) {
            $angle = $phase + $turn * ($since + $i);
            $sines[] = $wander * sin($angle);
            $cosines[] = $wander * cos($angle);
        }

        return [
            self::ahead($lines[0], $writeIndexes[0], $lengths[0], $sines, $wander, 1.0),
            self::ahead($lines[1], $writeIndexes[1], $lengths[1], $sines, $wander, -1.0),
            self::ahead($lines[2], $writeIndexes[2], $lengths[2], $cosines, $wander, 1.0),
            self::ahead($lines[3], $writeIndexes[3], $lengths[3], $cosines, $wander, -1.0),
        ];
    }

    /**
     * A line read so many samples before its end, between samples.
     *
     * @param  array<int, float>  $line
     * @param  list<float>  $moves
     * @return list<float>
     */
    private static function ahead(array $line, int $writeIndex, int $length, array $moves, float $middle, float $sign): array
    {
        for ($i = 0, $n = count($moves); $i < $n; ++$i) {
            $at = $writeIndex + $i + $middle + $sign * $moves[$i];
            $whole = (int) $at;
            $part = $at - $whole;
            $next = $whole + 1;
            $a = $line[$whole >= $length ? $whole - $length : $whole];
            $moves[$i] = $a + $part * ($line[$next >= $length ? $next - $length : $next] - $a);
        }

        return $moves;
    }
}
