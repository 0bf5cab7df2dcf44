<?php

declare(strict_types=1);

namespace Hafen\Hardware;

/** A converter of 24 bits: what is above full scale clips, and what is between two steps goes to the nearer. */
final class Converter
{
    /** What it clips to, of full scale. */
    public const HIGHEST = 1.0 - 1.0 / self::STEPS;

    public const LOWEST = -1.0;

    private const STEPS = 8_388_608;

    private float $peak = 0.0;

    private float $energy = 0.0;

    private int $frames = 0;

    private int $clipped = 0;

    /**
     * @param  list<float>  $samples  1.0 is full scale
     * @param  float  $gain  of the amplifier before it
     * @return list<float>
     */
    public function convert(array $samples, float $gain = 1.0): array
    {
        $gain *= self::STEPS;
        $step = 1.0 / self::STEPS;
        $highest = self::STEPS - 1;
        $peak = $this->peak;
        $energy = 0.0;
        $clipped = 0;
        foreach ($samples as $i => $sample) {
            $sample = round($sample * $gain);
            if ($sample > $highest) {
                $sample = $highest;
                ++$clipped;
            } elseif ($sample < -self::STEPS) {
                $sample = -self::STEPS;
                ++$clipped;
            }
            $sample *= $step;
            $samples[$i] = $sample;
            $energy += $sample * $sample;
            if ($sample > $peak) {
                $peak = $sample;
            } elseif (-$sample > $peak) {
                $peak = -$sample;
            }
        }
        $this->peak = $peak;
        $this->energy += $energy;
        $this->frames += count($samples);
        $this->clipped += $clipped;

        return $samples;
    }

    /** What it converted since last asked. */
    public function read(): InputReading
    {
        $reading = new InputReading($this->peak, $this->frames > 0 ? $this->energy / $this->frames : 0.0, $this->clipped);
        $this->peak = $this->energy = 0.0;
        $this->frames = $this->clipped = 0;

        return $reading;
    }
}
