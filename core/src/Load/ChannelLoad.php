<?php

declare(strict_types=1);

namespace Hafen\Load;

/** What one channel takes of a core: 1.0 is as long to compute as it plays. */
final readonly class ChannelLoad
{
    /**
     * @param  float  $total  all of the channel
     * @param  array<string, float>  $processors  of the processors in its rows and branches, by insert id
     */
    public function __construct(public float $total, public array $processors)
    {
    }

    /** What is no processor: reading clips, sums, gains, splits, meters. */
    public function own(): float
    {
        return $this->total - array_sum($this->processors);
    }
}
