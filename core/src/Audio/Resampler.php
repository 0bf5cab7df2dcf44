<?php

declare(strict_types=1);

namespace Hafen\Audio;

/**
 * Sound at one rate, read as if it were at another: a windowed-sinc interpolator evaluated at rational places.
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

    /** @var array<int, list<float>> filter taps of each phase, made when first needed */
    private array $phases = [];

    public function __construct(private readonly AudioSource $source, private readonly int $rate)
    {
        $divisor = self::greatestCommonDivisor($source->sampleRate(), $rate);
        $this->up = intdiv($rate, $divisor);
        $this->down = intdiv($source->sampleRate(), $divisor);
        $this->half = (int) ceil(self::HALF_PERIODS * max(1.0, $this->down / $this->up));
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
            $place = ($from + $i) * $down;
            $phase = (($place % $up) + $up) % $up;
            $taps = $this->phases[$phase] ??= $this->taps($phase);
            $at = intdiv($place - $phase, $up) - $this->half + 1 - $firstInput;
            $out[] = self::weigh($samples, $at, $taps, $length);
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

    /** @return list<float> */
    private function taps(int $phase): array
    {
        // -6 dB just below half the lower rate: flat to 0.45, and the image of 0.45 (at 0.55) is well in the stop band.
        $cutoff = 0.49 * min(1.0, $this->up / $this->down);
        $fraction = $phase / $this->up;
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
