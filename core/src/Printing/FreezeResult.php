<?php

declare(strict_types=1);

namespace Hafen\Printing;

/** What came out of a freeze. */
final readonly class FreezeResult
{
    /**
     * @param  string  $hash  content hash the freeze is known by
     * @param  int  $frames  in the file, tail included
     * @param  int  $tail  samples after the session's end
     * @param  float  $peak  amplitude
     * @param  bool  $faded  false where sound goes on after the end of the file
     */
    public function __construct(public string $hash, public int $frames, public int $tail, public float $peak, public bool $faded)
    {
    }
}
