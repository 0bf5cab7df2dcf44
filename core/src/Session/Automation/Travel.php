<?php

declare(strict_types=1);

namespace Hafen\Session\Automation;

use Hafen\Processor\Scale;
use Hafen\Session\Channel\FaderScale;

/** Where values stand on the travel of a control: a gain by the scale of faders, a logarithmic parameter by its ratio, all else as they are. */
final readonly class Travel
{
    private const BEND = 4.0;

    private function __construct(private bool $isGain, private bool $isLogarithmic)
    {
    }

    /** Of gains in dB, null being silence. */
    public static function ofGains(): self
    {
        return new self(true, false);
    }

    public static function along(Scale $scale): self
    {
        return new self(false, $scale === Scale::Logarithmic);
    }

    /** @param  ?float  $value  null is silence */
    public function at(?float $value): float
    {
        return match (true) {
            $this->isGain => FaderScale::travelAt($value),
            $value === null => 0.0,
            $this->isLogarithmic && $value > 0.0 => log($value),
            default => $value,
        };
    }

    /** @return ?float what stands at a place; null is silence */
    public function value(float $travel): ?float
    {
        return match (true) {
            $this->isGain => FaderScale::gainAt($travel),
            $this->isLogarithmic => exp($travel),
            default => $travel,
        };
    }

    /**
     * How far a bent way has come.
     *
     * Source: p' = (e^(4cp) - 1) / (e^(4c) - 1) for the curve c.
     *
     * @param  float  $share  0 to 1
     * @param  float  $curve  -1 (quick at first) to 1 (slow at first)
     */
    public static function bent(float $share, float $curve): float
    {
        return abs($curve) < 1e-6 ? $share : (exp(self::BEND * $curve * $share) - 1.0) / (exp(self::BEND * $curve) - 1.0);
    }
}
