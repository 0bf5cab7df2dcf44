<?php

declare(strict_types=1);

namespace Hafen\Engine;

/** A channel whose output was NaN or infinite and that was silenced. */
final readonly class Fault
{
    public function __construct(public string $channel, public int $position)
    {
    }
}
