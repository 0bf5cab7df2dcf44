<?php

declare(strict_types=1);

namespace Hafen\Routing;

/** A copy of a signal that meets it with a time offset. */
final readonly class Comb
{
    /**
     * @param  string  $channel  id of the channel that is not lined up
     * @param  string  $where  name of the place where it meets the others
     * @param  ?string  $split  id of the split whose branches it is about
     * @param  int  $samples  late (positive) or early (negative); not 0
     */
    public function __construct(
        public string $channel,
        public string $where,
        public ?string $split,
        public int $samples,
        private int $sampleRate,
    ) {
    }

    /** The lowest frequency that cancels, in Hz. */
    public function firstNotch(): float
    {
        return $this->sampleRate / (2.0 * abs($this->samples));
    }
}
