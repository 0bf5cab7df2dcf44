<?php

declare(strict_types=1);

namespace Hafen\Hardware;

use Hafen\Session\Hardware\MeasuredDelay;

/** What a ping found of a hardware loop: its delay, its level in dB with both trims, its polarity, and the noise that came back in dBFS (RMS). */
final readonly class PingResult
{
    public function __construct(public MeasuredDelay $delay, public float $level, public bool $isInverted, public ?float $noise)
    {
    }
}
