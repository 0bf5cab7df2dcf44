<?php

declare(strict_types=1);

namespace Hafen\Dsp\Filter;

/**
 * One second-order section, normalised so that a0 = 1.
 *
 * Source: W3C Group Note "Audio EQ Cookbook" (R. Bristow-Johnson). First-order sections are the bilinear transform of
 * w/(s+w) and s/(s+w). Frequencies in Hz are held between 1 Hz and 0.49 of the sample rate.
 */
final readonly class BiquadCoefficients
{
    public function __construct(
        public float $b0,
        public float $b1,
        public float $b2,
        public float $a1,
        public float $a2,
    ) {
    }

    public static function identity(): self
    {
        return new self(1.0, 0.0, 0.0, 0.0, 0.0);
    }

    public static function peaking(float $frequency, float $q, float $gain, int $sampleRate): self
    {
        [$cos, $alpha] = self::angles($frequency, $q, $sampleRate);
        $a = 10.0 ** ($gain / 40.0);

        return self::normalised(1 + $alpha * $a, -2 * $cos, 1 - $alpha * $a, 1 + $alpha / $a, -2 * $cos, 1 - $alpha / $a);
    }

    public static function lowShelf(float $frequency, float $q, float $gain, int $sampleRate): self
    {
        [$cos, $alpha] = self::angles($frequency, $q, $sampleRate);
        $a = 10.0 ** ($gain / 40.0);
        $root = 2 * sqrt($a) * $alpha;

        return self::normalised(
            $a * (($a + 1) - ($a - 1) * $cos + $root),
            2 * $a * (($a - 1) - ($a + 1) * $cos),
            $a * (($a + 1) - ($a - 1) * $cos - $root),
            ($a + 1) + ($a - 1) * $cos + $root,
            -2 * (($a - 1) + ($a + 1) * $cos),
            ($a + 1) + ($a - 1) * $cos - $root,
        );
    }

    public static function highShelf(float $frequency, float $q, float $gain, int $sampleRate): self
    {
        [$cos, $alpha] = self::angles($frequency, $q, $sampleRate);
        $a = 10.0 ** ($gain / 40.0);
        $root = 2 * sqrt($a) * $alpha;

        return self::normalised(
            $a * (($a + 1) + ($a - 1) * $cos + $root),
            -2 * $a * (($a - 1) + ($a + 1) * $cos),
            $a * (($a + 1) + ($a - 1) * $cos - $root),
            ($a + 1) - ($a - 1) * $cos + $root,
            2 * (($a - 1) - ($a + 1) * $cos),
            ($a + 1) - ($a - 1) * $cos - $root,
        );
    }

    public static function highPass(float $frequency, float $q, int $sampleRate): self
    {
        [$cos, $alpha] = self::angles($frequency, $q, $sampleRate);

        return self::normalised((1 + $cos) / 2, -(1 + $cos), (1 + $cos) / 2, 1 + $alpha, -2 * $cos, 1 - $alpha);
    }

    public static function lowPass(float $frequency, float $q, int $sampleRate): self
    {
        [$cos, $alpha] = self::angles($frequency, $q, $sampleRate);

        return self::normalised((1 - $cos) / 2, 1 - $cos, (1 - $cos) / 2, 1 + $alpha, -2 * $cos, 1 - $alpha);
    }

    /** Peak gain 0 dB. */
    public static function bandPass(float $frequency, float $q, int $sampleRate): self
    {
        [$cos, $alpha] = self::angles($frequency, $q, $sampleRate);

        return self::normalised($alpha, 0.0, -$alpha, 1 + $alpha, -2 * $cos, 1 - $alpha);
    }

    public static function notch(float $frequency, float $q, int $sampleRate): self
    {
        [$cos, $alpha] = self::angles($frequency, $q, $sampleRate);

        return self::normalised(1.0, -2 * $cos, 1.0, 1 + $alpha, -2 * $cos, 1 - $alpha);
    }

    public static function allPass(float $frequency, float $q, int $sampleRate): self
    {
        [$cos, $alpha] = self::angles($frequency, $q, $sampleRate);

        return self::normalised(1 - $alpha, -2 * $cos, 1 + $alpha, 1 + $alpha, -2 * $cos, 1 - $alpha);
    }

    /** 6 dB/octave. */
    public static function firstOrderHighPass(float $frequency, int $sampleRate): self
    {
        $k = tan(M_PI * self::held($frequency, $sampleRate) / $sampleRate);

        return new self(1 / (1 + $k), -1 / (1 + $k), 0.0, ($k - 1) / ($k + 1), 0.0);
    }

    /** 6 dB/octave. */
    public static function firstOrderLowPass(float $frequency, int $sampleRate): self
    {
        $k = tan(M_PI * self::held($frequency, $sampleRate) / $sampleRate);

        return new self($k / (1 + $k), $k / (1 + $k), 0.0, ($k - 1) / ($k + 1), 0.0);
    }

    /** Amplitude factor at a frequency in Hz. */
    public function magnitude(float $frequency, int $sampleRate): float
    {
        $w = 2 * M_PI * $frequency / $sampleRate;
        $c1 = cos($w);
        $s1 = sin($w);
        $c2 = cos(2 * $w);
        $s2 = sin(2 * $w);
        $top = hypot($this->b0 + $this->b1 * $c1 + $this->b2 * $c2, $this->b1 * $s1 + $this->b2 * $s2);
        $bottom = hypot(1 + $this->a1 * $c1 + $this->a2 * $c2, $this->a1 * $s1 + $this->a2 * $s2);

        return $top / $bottom;
    }

    /**
     * Amplitude factor of sections in series.
     *
     * @param  array<self>  $sections
     */
    public static function magnitudeOf(array $sections, float $frequency, int $sampleRate): float
    {
        $magnitude = 1.0;
        foreach ($sections as $section) {
            $magnitude *= $section->magnitude($frequency, $sampleRate);
        }

        return $magnitude;
    }

    /** @return array{float, float} cosine of the angle, alpha */
    private static function angles(float $frequency, float $q, int $sampleRate): array
    {
        $w = 2 * M_PI * self::held($frequency, $sampleRate) / $sampleRate;

        return [cos($w), sin($w) / (2 * max(0.01, $q))];
    }

    private static function held(float $frequency, int $sampleRate): float
    {
        return min(max($frequency, 1.0), 0.49 * $sampleRate);
    }

    private static function normalised(float $b0, float $b1, float $b2, float $a0, float $a1, float $a2): self
    {
        return new self($b0 / $a0, $b1 / $a0, $b2 / $a0, $a1 / $a0, $a2 / $a0);
    }
}
