<?php

declare(strict_types=1);

namespace Hafen\Metering;

/** A range with samples beyond full scale, in samples of the session; `to` is the first that no longer belongs to it. */
final readonly class OverRegion
{
    /** @param  float  $peak  amplitude of the highest sample */
    public function __construct(public int $from, public int $to, public int $samples, public float $peak)
    {
    }
}
