<?php

declare(strict_types=1);

namespace Hafen\Printing;

use Hafen\Engine\Fault;

/** What came out of a print. */
final readonly class PrintResult
{
    /**
     * @param  int  $frames  in the file, tail included
     * @param  int  $channels  1 or 2
     * @param  float  $peak  amplitude
     * @param  int  $clipped  samples lost at full scale; only fixed-point files clip
     * @param  ?int  $firstClip  frame near which the first of them is
     * @param  list<Fault>  $faults
     */
    public function __construct(
        public int $frames,
        public int $channels,
        public float $peak,
        public int $clipped,
        public ?int $firstClip,
        public array $faults,
    ) {
    }
}
