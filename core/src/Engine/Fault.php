<?php

declare(strict_types=1);

namespace Hafen\Engine;

/** A channel that put out something that is not a number and was silenced. */
final readonly class Fault
{
    public function __construct(public string $channel, public int $position)
    {
    }
}
