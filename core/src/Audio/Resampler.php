<?php

declare(strict_types=1);

namespace Hafen\Audio;

/**
 * Sound at one rate, read as if it were at another: a windowed-sinc interpolator evaluated at rational places. Where the two rates
 * have so many places between samples that a filter for each would take too much room, the filters of evenly spaced places are
 * interpolated between (Smith and Gossett 1984): 1024 of them leave what that adds below -100 dB.
 *
 * Kaiser window (Kaiser 1974, beta for about 110 dB). The pass band reaches 0.45 of the lower rate within 0.05 dB and
 * images lie at least 90 dB down; when going down the filter narrows to the new rate. Reading is exact from any place
 * in any order, because an output sample depends on its position alone.
 */
final class Resampler implements AudioSource
{
    private const KAISER_BETA = 11.0;

    /** Half the filter's length in periods of the lower rate. */
    private const HALF_PERIODS = 48;

    private readonly int $up;

    private readonly int $down;

    /** Input samples on either side of an output sample. */
    private readonly int $half;

    /** Taps that are kept at the most with one filter for each place. */
    private const MOST_TAPS = 250_000;

    /** Places between two samples that have a filter of their own, where the rest are interpolated. */
    private const PLACES = 1024;

    /** @var array<int, list<float>> filter taps of each phase, made when first needed */
    private array $phases = [];

    /** Phases that have a filter of their own; 0 where all have. */
    private readonly int $between;

    public function __construct(private readonly AudioSource $source, private readonly int $rate)
    {
        $divisor = self::greatestCommonDivisor($source->sampleRate(), $rate);
        $this->up = intdiv($rate, $divisor);
        $this->down = intdiv($source->sampleRate(), $divisor);
        $narrowing = max(1.0, $this->down / $this->up);
        $this->half = (int) ceil(self::HALF_PERIODS * $narrowing);
        // A filter that is narrower changes less from place to place.
        $this->between = $this->up * 2 * $this->half <= self::MOST_TAPS ? 0 : max(16, (int) ceil(self::PLACES / $narrowing));
    }

    /** The source itself when it already has the rate. */
    public static function to(AudioSource $source, int $rate): AudioSource
    {
        return $source->sampleRate() === $rate ? $source : new self($source, $rate);
    }

    public function sampleRate(): int
    {
        return $this->rate;
    }

    public function channels(): int
    {
        return $this->source->channels();
    }

    public function frames(): int
    {
        return intdiv($this->source->frames() * $this->up + $this->down - 1, $this->down);
    }

    public function read(int $from, int $count): array
    {
        $firstInput = self::floorDivide($from * $this->down, $this->up) - $this->half + 1;
        $lastInput = self::floorDivide(($from + $count - 1) * $this->down, $this->up) + $this->half;
        $input = $this->source->read($firstInput, $lastInput - $firstInput + 1);
        $out = [];
        SampleLoops::check();
        foreach ($input as $samples) {
            $out[] = $this->interpolate($samples, $from, $count, $firstInput);
        }

        return $out;
    }

    /**
     * @param  list<float>  $samples
     * @return list<float>
     */
    private function interpolate(array $samples, int $from, int $count, int $firstInput): array
    {
        $up = $this->up;
        $down = $this->down;
        $length = 2 * $this->half;
        $out = [];
        for ($i = 0; $i < $count; ++$i) {
            $inputTime = ($from + $i) * $down;
            $phase = (($inputTime % $up) + $up) % $up;
            $at = intdiv($inputTime - $phase, $up) - $this->half + 1 - $firstInput;
            if ($this->between === 0) {
                $out[] = self::weigh($samples, $at, $this->phases[$phase] ??= $this->taps($phase / $up), $length);

                continue;
            }
            $fine = $phase / $up * $this->between;
            $whole = (int) $fine;
            $out[] = self::weighBetween(
                $samples,
                $at,
                $this->phases[$whole] ??= $this->taps($whole / $this->between),
                $this->phases[$whole + 1] ??= $this->taps(($whole + 1) / $this->between),
                $fine - $whole,
                $length,
            );
        }

        return $out;
    }

    /**
     * @param  list<float>  $samples
     * @param  list<float>  $taps
     */
    private static function weigh(array $samples, int $at, array $taps, int $length): float
    {
        $sum = 0.0;
        for ($k = 0; $k < $length; ++$k) {
            $sum += $samples[$at + $k] * $taps[$k];
        }

        return $sum;
    }

    /**
     * @param  list<float>  $samples
     * @param  list<float>  $before
     * @param  list<float>  $after
     */
    private static function weighBetween(array $samples, int $at, array $before, array $after, float $share, int $length): float
    {
        $sum = 0.0;
        for ($k = 0; $k < $length; ++$k) {
            $sum += $samples[$at + $k] * ($before[$k] + $share * ($after[$k] - $before[$k]));
        }

        return $sum;
    }

    /**
     * @param  float  $fraction  place between two samples, 0 to 1
     * @return list<float>
     */
    private function taps(float $fraction): array
    {
        // -6 dB just below half the lower rate: flat to 0.45, and the image of 0.45 (at 0.55) is well in the stop band.
        $cutoff = 0.49 * min(1.0, $this->up / $this->down);
        $taps = [];
        $sum = 0.0;
        for ($k = -$this->half + 1; $k <= $this->half; ++$k) {
            $x = $k - $fraction;
            $sinc = abs($x) < 1e-12 ? 2.0 * $cutoff : sin(2.0 * M_PI * $cutoff * $x) / (M_PI * $x);
            $tap = $sinc * KaiserWindow::at($x / $this->half, self::KAISER_BETA);
            $taps[] = $tap;
            $sum += $tap;
        }

        return array_map(static fn (float $tap): float => $tap / $sum, $taps);
    }

    private static function greatestCommonDivisor(int $a, int $b): int
    {
        return $b === 0 ? $a : self::greatestCommonDivisor($b, $a % $b);
    }

    private static function floorDivide(int $a, int $b): int
    {
        $quotient = intdiv($a, $b);

        return $a % $b < 0 ? $quotient - 1 : $quotient;
    }
}
