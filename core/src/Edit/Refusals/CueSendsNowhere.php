<?php

declare(strict_types=1);

namespace Hafen\Edit\Refusals;

use Hafen\Edit\EditRefused;

/** A send from a cue. */
final class CueSendsNowhere extends EditRefused
{
    public static function named(string $name): self
    {
        return new self('send', "{$name} is a cue and ends at its own output. It sends nowhere.");
    }
}
