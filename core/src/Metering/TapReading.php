<?php

declare(strict_types=1);

namespace Hafen\Metering;

use Hafen\Audio\Decibel;

/**
 * What a tap carried over a stretch of time: largest sample, mean square over both sides, samples above full scale.
 *
 * Levels are in dBFS; RMS of a full-scale sine reads -3.01 dB (no AES17 reference). null is silence.
 */
final readonly class TapReading
{
    public function __construct(
        public float $peak,
        public float $meanSquare,
        public int $overs,
        public float $gainReduction = 0.0,
    ) {
    }

    public function peakLevel(): ?float
    {
        return Decibel::fromGain($this->peak);
    }

    public function rmsLevel(): ?float
    {
        return Decibel::fromPower($this->meanSquare);
    }
}
