<?php

declare(strict_types=1);

namespace Hafen\Edit\Refusals;

use Hafen\Edit\EditRefused;

/** An output to the interface of a channel that cannot go there. */
final class NotToInterface extends EditRefused
{
    public static function from(string $name): self
    {
        return new self('output', "{$name} cannot go to the interface by itself; only the main and cues do.");
    }
}
