<?php

declare(strict_types=1);

namespace Hafen\Edit\Refusals;

use Hafen\Edit\EditRefused;
use Hafen\Session\Channel\Channel;

/** A freeze of a main or a cue. */
final class CannotBeFrozen extends EditRefused
{
    public static function kind(Channel $channel): self
    {
        return new self('frozen', "{$channel->name} cannot be frozen: it is a {$channel->kind->word()}. Freeze tracks, groups or returns.");
    }
}
