<?php

declare(strict_types=1);

namespace Hafen\Dsp\Gain;

/**
 * The static curve of a compressor in dB.
 *
 * Source: D. Giannoulis, M. Massberg, J. D. Reiss, "Digital dynamic range compressor design", JAES 60(6), 2012, eq. 4.
 */
final readonly class GainComputer
{
    public function __construct(
        public float $threshold,
        public float $ratio,
        public float $knee,
    ) {
    }

    /** Output level in dB for an input level in dB. */
    public function output(float $level): float
    {
        $over = $level - $this->threshold;
        if (2 * $over < -$this->knee) {
            return $level;
        }
        $slope = 1 / $this->ratio - 1;
        if ($this->knee > 0.0 && 2 * abs($over) <= $this->knee) {
            return $level + $slope * ($over + $this->knee / 2) ** 2 / (2 * $this->knee);
        }

        return $level + $slope * $over;
    }
}
