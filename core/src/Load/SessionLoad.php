<?php

declare(strict_types=1);

namespace Hafen\Load;

/** What a session takes of a core, measured: the parts add up to the whole. */
final readonly class SessionLoad
{
    /**
     * @param  float  $total  1.0 is as long to compute as it plays
     * @param  array<string, ChannelLoad>  $channels  by id
     * @param  float  $seconds  of sound that were measured
     * @param  int  $memory  bytes the engine took
     */
    public function __construct(public float $total, public array $channels, public float $seconds, public int $memory = 0)
    {
    }

    /** What is no channel: the engine around them. */
    public function engine(): float
    {
        return $this->total - array_sum(array_map(static fn (ChannelLoad $channel): float => $channel->total, $this->channels));
    }
}
