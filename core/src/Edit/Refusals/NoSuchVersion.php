<?php

declare(strict_types=1);

namespace Hafen\Edit\Refusals;

use Hafen\Edit\EditRefused;

/** A version that is not there. */
final class NoSuchVersion extends EditRefused
{
    public static function of(string $channel, string $id): self
    {
        return new self('version', "{$channel} has no version \"{$id}\" any more.");
    }
}
