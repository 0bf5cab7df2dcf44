<?php

declare(strict_types=1);

namespace Hafen\Load;

/** What one channel takes of a core: 1.0 is as long to compute as it plays. */
final readonly class ChannelLoad
{
    /**
     * @param  float  $total  all of the channel
     * @param  float  $reading  reading clips or the frozen file, and summing what others feed
     * @param  float  $afterFader  the fader and all that comes after it
     * @param  array<string, float>  $processors  of the processors in its rows and branches, by insert id
     */
    public function __construct(public float $total, public float $reading, public float $afterFader, public array $processors)
    {
    }

    /** What is neither reading nor a processor: gains, splits, meters. */
    public function own(): float
    {
        return $this->total - $this->reading - array_sum($this->processors);
    }
}
