<?php

declare(strict_types=1);

namespace Hafen\Printing;

/** A take that is recorded: its file, where it was played, and how loud it is. */
final readonly class Take
{
    /**
     * @param  int  $start  position in the session of its first sample
     * @param  float  $peak  amplitude
     */
    public function __construct(public string $path, public int $start, public int $frames, public float $peak)
    {
    }
}
