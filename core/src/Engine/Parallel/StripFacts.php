<?php

declare(strict_types=1);

namespace Hafen\Engine\Parallel;

/** What a process says of a channel strip it works. */
final readonly class StripFacts
{
    /**
     * @param  array<string, int>  $stages  latency of each tap in samples, in the order sound passes
     * @param  int  $latency  samples
     * @param  int  $tail  samples, with the tails of what feeds it
     */
    public function __construct(
        public array $stages = [],
        public int $latency = 0,
        public int $tail = 0,
        public bool $isFrozen = false,
    ) {
    }
}
