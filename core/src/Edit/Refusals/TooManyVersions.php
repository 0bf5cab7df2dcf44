<?php

declare(strict_types=1);

namespace Hafen\Edit\Refusals;

use Hafen\Edit\EditRefused;

/** One version more than a track can have. */
final class TooManyVersions extends EditRefused
{
    public static function of(string $channel, int $most): self
    {
        return new self('versions', "{$channel} has {$most} versions, which is the most. Remove one first.");
    }
}
