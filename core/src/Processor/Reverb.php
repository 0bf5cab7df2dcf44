<?php

declare(strict_types=1);

namespace Hafen\Processor;

use Hafen\Audio\Block;
use Hafen\Dsp\BiquadCascade;
use Hafen\Dsp\BiquadCoefficients;

/**
 * A room: pre-delay, two diffusing all-passes a side, and a feedback network of eight delays.
 *
 * Sources: J.-M. Jot, A. Chaigne, "Digital delay networks for designing artificial reverberators", AES 1991 (each line's
 * gain gives the decay time, its low-pass the damping); M. R. Schroeder, "Natural sounding artificial reverberation",
 * JAES 1962 (all-pass diffusion). The feedback matrix is an 8 x 8 Hadamard matrix. `decay` is T60 at low and middle
 * frequencies; at the damping frequency it has fallen to half.
 */
final class Reverb implements Processor
{
    use NoLatency;

    /** Lengths of the lines in ms at size 100 %; no two in a simple ratio. */
    private const LINES = [31.71, 37.11, 40.23, 44.14, 50.83, 57.31, 64.69, 72.97];

    private const DIFFUSERS = [[4.77, 7.13], [5.39, 8.31]];

    private const DIFFUSION = 0.62;

    private const LONGEST_PRE_DELAY = 250.0;

    /** @var list<list<float>> */
    private array $lines = [];

    /** @var list<int> */
    private array $places = [0, 0, 0, 0, 0, 0, 0, 0];

    /** @var list<int> */
    private array $lengths = [];

    /** @var list<float> */
    private array $gains = [];

    /** @var list<float> */
    private array $poles = [];

    /** @var list<float> state of each line's low-pass */
    private array $lows = [0.0, 0.0, 0.0, 0.0, 0.0, 0.0, 0.0, 0.0];

    /** @var list<list<float>> */
    private array $diffusers = [];

    /** @var list<int> */
    private array $diffuserPlaces = [0, 0, 0, 0];

    /** @var list<float> */
    private array $preLeft = [];

    /** @var list<float> */
    private array $preRight = [];

    private int $prePlace = 0;

    private int $preDelay = 0;

    private readonly int $preRoom;

    private float $decay = 2.0;

    private float $width = 1.0;

    private readonly BiquadCascade $tone;

    public static function spec(): ProcessorSpec
    {
        return new ProcessorSpec(
            'reverb',
            'Reverb',
            'Space',
            'A room around the sound.',
            [
                ParameterSpec::number('pre-delay', 'Pre-delay', 'ms', 0.0, self::LONGEST_PRE_DELAY, 15.0, step: 1.0),
                ParameterSpec::number('size', 'Size', '%', 20.0, 150.0, 80.0, step: 1.0),
                ParameterSpec::number('decay', 'Decay', 's', 0.2, 12.0, 1.8, Scale::Logarithmic, 0.1),
                ParameterSpec::frequency('damping', 'Damping', 6000.0, 1000.0),
                ParameterSpec::frequency('low-cut', 'Low cut', 150.0, 20.0, 1000.0),
                ParameterSpec::frequency('high-cut', 'High cut', 12000.0, 1000.0),
                ParameterSpec::number('width', 'Width', '%', 0.0, 100.0, 100.0, step: 1.0),
            ],
            wetOnly: true,
            widens: true,
            synonyms: ['room', 'hall', 'plate', 'ambience', 'space'],
        );
    }

    public static function label(ParameterValues $values): string
    {
        return 'Reverb '.number_format($values->number('decay'), 1, '.', '').' s';
    }

    public static function picture(ParameterValues $values, Setting $setting): Picture
    {
        $decay = $values->number('decay') * 1000.0;
        $pre = $values->number('pre-delay');
        $span = max(1000.0, $decay + $pre);
        $damped = $decay / 2.0;

        return new Picture(
            'Decay',
            new Axis('ms', 0.0, round($span), Scale::Linear),
            new Axis('dB', -60.0, 0.0, Scale::Linear),
            [
                ['label' => 'middle', 'points' => [[$pre, -60.0], [$pre, 0.0], [$pre + $decay, -60.0]]],
                ['label' => 'at the damping frequency', 'points' => [[$pre, 0.0], [$pre + $damped, -60.0]]],
            ],
            [['label' => '', 'x' => $pre, 'y' => 0.0, 'xParameter' => 'pre-delay', 'yParameter' => null]],
        );
    }

    public function __construct(private readonly Setting $setting)
    {
        $this->preRoom = (int) ceil(self::LONGEST_PRE_DELAY * $setting->sampleRate / 1000.0) + 2;
        $this->tone = new BiquadCascade;
        $this->clear();
    }

    public function set(ParameterValues $values): void
    {
        $rate = $this->setting->sampleRate;
        $this->preDelay = (int) round($values->number('pre-delay') * $rate / 1000.0);
        $this->decay = $values->number('decay');
        $this->width = $values->number('width') / 100.0;
        $size = $values->number('size') / 100.0;
        $damping = min($values->number('damping'), 0.45 * $rate);
        $cosine = cos(2.0 * M_PI * $damping / $rate);
        $this->lengths = $this->gains = $this->poles = [];
        foreach (self::LINES as $milliseconds) {
            $length = max(8, (int) round($milliseconds * $size * $rate / 1000.0));
            $seconds = $length / $rate;
            $gain = 10.0 ** (-3.0 * $seconds / $this->decay);
            // The pole that makes the line's gain fall by as much again at the damping frequency.
            $square = $gain * $gain;
            $a = 1.0 - $square * $cosine;
            $b = 1.0 - $square;
            $this->lengths[] = $length;
            $this->gains[] = $gain;
            $this->poles[] = $b < 1e-9 ? 0.0 : ($a - sqrt(max(0.0, $a * $a - $b * $b))) / $b;
        }
        $this->tone->set([
            'low-cut' => BiquadCoefficients::highPass($values->number('low-cut'), M_SQRT1_2, $rate),
            'high-cut' => BiquadCoefficients::lowPass($values->number('high-cut'), M_SQRT1_2, $rate),
        ]);
    }

    public function process(Block $block): void
    {
        $block->widen();
        [$left, $right] = $this->delayed($block->left, $block->right);
        [$left, $right] = $this->diffused($left, $right);
        [$block->left, $block->right] = $this->network($left, $right);
        $this->tone->process($block);
    }

    public function reset(): void
    {
        $this->clear();
        $this->tone->reset();
    }

    public function tail(): int
    {
        return $this->preDelay + (int) ceil($this->decay * $this->setting->sampleRate);
    }

    private function clear(): void
    {
        $rate = $this->setting->sampleRate;
        $this->preLeft = $this->preRight = array_fill(0, $this->preRoom, 0.0);
        $this->lines = $this->diffusers = [];
        foreach (self::LINES as $milliseconds) {
            $this->lines[] = array_fill(0, (int) ceil($milliseconds * 1.5 * $rate / 1000.0) + 8, 0.0);
        }
        foreach ([...self::DIFFUSERS[0], ...self::DIFFUSERS[1]] as $milliseconds) {
            $this->diffusers[] = array_fill(0, (int) round($milliseconds * $rate / 1000.0), 0.0);
        }
        $this->places = [0, 0, 0, 0, 0, 0, 0, 0];
        $this->diffuserPlaces = [0, 0, 0, 0];
        $this->lows = [0.0, 0.0, 0.0, 0.0, 0.0, 0.0, 0.0, 0.0];
        $this->prePlace = 0;
    }

    /**
     * @param  list<float>  $left
     * @param  list<float>  $right
     * @return array{list<float>, list<float>}
     */
    private function delayed(array $left, array $right): array
    {
        $ringLeft = $this->preLeft;
        $ringRight = $this->preRight;
        $this->preLeft = $this->preRight = [];
        $place = $this->prePlace;
        $room = $this->preRoom;
        $read = $place - $this->preDelay;
        if ($read < 0) {
            $read += $room;
        }
        for ($i = 0, $n = count($left); $i < $n; ++$i) {
            $ringLeft[$place] = $left[$i];
            $ringRight[$place] = $right[$i];
            $left[$i] = $ringLeft[$read];
            $right[$i] = $ringRight[$read];
            if (++$place === $room) {
                $place = 0;
            }
            if (++$read === $room) {
                $read = 0;
            }
        }
        $this->preLeft = $ringLeft;
        $this->preRight = $ringRight;
        $this->prePlace = $place;

        return [$left, $right];
    }

    /**
     * @param  list<float>  $left
     * @param  list<float>  $right
     * @return array{list<float>, list<float>}
     */
    private function diffused(array $left, array $right): array
    {
        foreach ([0, 1] as $k) {
            $ring = $this->diffusers[$k];
            $this->diffusers[$k] = [];
            [$left, $this->diffusers[$k], $this->diffuserPlaces[$k]] = self::allPass($left, $ring, $this->diffuserPlaces[$k]);
            $ring = $this->diffusers[$k + 2];
            $this->diffusers[$k + 2] = [];
            [$right, $this->diffusers[$k + 2], $this->diffuserPlaces[$k + 2]] = self::allPass($right, $ring, $this->diffuserPlaces[$k + 2]);
        }

        return [$left, $right];
    }

    /**
     * @param  list<float>  $x
     * @param  list<float>  $ring
     * @return array{list<float>, list<float>, int}
     */
    private static function allPass(array $x, array $ring, int $place): array
    {
        $g = self::DIFFUSION;
        $length = count($ring);
        for ($i = 0, $n = count($x); $i < $n; ++$i) {
            $old = $ring[$place];
            $inner = $x[$i] + $g * $old + 1e-280 - 1e-280;
            $ring[$place] = $inner;
            $x[$i] = $old - $g * $inner;
            if (++$place === $length) {
                $place = 0;
            }
        }

        return [$x, $ring, $place];
    }

    /**
     * @param  list<float>  $left
     * @param  list<float>  $right
     * @return array{list<float>, list<float>}
     */
    private function network(array $left, array $right): array
    {
        [$d0, $d1, $d2, $d3, $d4, $d5, $d6, $d7] = $this->lines;
        $this->lines = [];
        [$p0, $p1, $p2, $p3, $p4, $p5, $p6, $p7] = $this->places;
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
        $side = $this->width;
        $mid = 0.5;
        // As far as the next line that wraps, places are a fixed distance from the sample's number: no test in the loop.
        for ($done = 0, $frames = count($left); $done < $frames; $done = $end) {
            $end = min($frames, $done + min($n0 - $p0, $n1 - $p1, $n2 - $p2, $n3 - $p3, $n4 - $p4, $n5 - $p5, $n6 - $p6, $n7 - $p7));
            $o0 = $p0 - $done;
            $o1 = $p1 - $done;
            $o2 = $p2 - $done;
            $o3 = $p3 - $done;
            $o4 = $p4 - $done;
            $o5 = $p5 - $done;
            $o6 = $p6 - $done;
            $o7 = $p7 - $done;
            for ($i = $done; $i < $end; ++$i) {
                $s0 = $g0 * (1.0 - $c0) * $d0[$i + $o0] + $c0 * $s0 + 1e-280 - 1e-280;
                $s1 = $g1 * (1.0 - $c1) * $d1[$i + $o1] + $c1 * $s1 + 1e-280 - 1e-280;
                $s2 = $g2 * (1.0 - $c2) * $d2[$i + $o2] + $c2 * $s2 + 1e-280 - 1e-280;
                $s3 = $g3 * (1.0 - $c3) * $d3[$i + $o3] + $c3 * $s3 + 1e-280 - 1e-280;
                $s4 = $g4 * (1.0 - $c4) * $d4[$i + $o4] + $c4 * $s4 + 1e-280 - 1e-280;
                $s5 = $g5 * (1.0 - $c5) * $d5[$i + $o5] + $c5 * $s5 + 1e-280 - 1e-280;
                $s6 = $g6 * (1.0 - $c6) * $d6[$i + $o6] + $c6 * $s6 + 1e-280 - 1e-280;
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
        $this->places = [$p0, $p1, $p2, $p3, $p4, $p5, $p6, $p7];
        $this->lows = [$s0, $s1, $s2, $s3, $s4, $s5, $s6, $s7];

        return [$left, $right];
    }
}
