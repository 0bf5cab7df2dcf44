<?php

declare(strict_types=1);

namespace Hafen\Survey;

/** A clip whose file stood at full scale for several samples on end: what was above is lost. */
final readonly class ClippedClip
{
    /** @param  int  $first  sample of the session where it happens first */
    public function __construct(public string $clip, public int $places, public int $first)
    {
    }
}
