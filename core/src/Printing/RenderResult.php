<?php

declare(strict_types=1);

namespace Hafen\Printing;

use Hafen\Engine\Fault;

/** What came out of a render. Positions in samples from the session's start. */
final readonly class RenderResult
{
    /**
     * @param  int  $clipped  samples lost at full scale; only fixed-point files clip
     * @param  ?int  $firstClip  where the first of them is
     * @param  list<Fault>  $faults
     * @param  array<string, string>  $unplayable  why frozen channels were worked live, by channel id
     */
    public function __construct(
        public int $frames,
        public float $peak,
        public int $peakAt,
        public int $clipped,
        public ?int $firstClip,
        public array $faults,
        public array $unplayable = [],
    ) {
    }
}
