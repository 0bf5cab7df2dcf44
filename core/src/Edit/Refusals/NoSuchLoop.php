<?php

declare(strict_types=1);

namespace Hafen\Edit\Refusals;

use Hafen\Edit\EditRefused;

/** A hardware loop that is not in the session. */
final class NoSuchLoop extends EditRefused
{
    public static function withId(string $id): self
    {
        return new self('loop', "There is no hardware loop \"{$id}\". It may have been removed.");
    }
}
