<?php

declare(strict_types=1);

namespace Hafen\Edit\Refusals;

use Hafen\Edit\EditRefused;

/** A freeze of a channel as it was before. */
final class FreezeOutOfDate extends EditRefused
{
    public static function of(string $name): self
    {
        return new self('hash', "{$name} was changed since this freeze was made. Freeze it again.");
    }
}
