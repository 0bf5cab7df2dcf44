<?php

declare(strict_types=1);

namespace Hafen\Survey;

/**
 * The highest sample of what enters the main, and how much of it each channel that feeds the main contributes: signed shares
 * that add up to it. What is negative works against the peak.
 */
final readonly class LoudestMoment
{
    /**
     * @param  int  $position  sample of the session
     * @param  float  $value  of the sample, after the main's trim
     * @param  array<string, float>  $contributions  by channel id, the largest in the direction of the peak first
     */
    public function __construct(public int $position, public float $value, public array $contributions)
    {
    }

    /** @return array<string, float> of the peak, 1 is all of it */
    public function shares(): array
    {
        return array_map(fn (float $contribution): float => $this->value === 0.0 ? 0.0 : $contribution / $this->value, $this->contributions);
    }
}
