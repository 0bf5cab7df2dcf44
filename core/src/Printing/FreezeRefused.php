<?php

declare(strict_types=1);

namespace Hafen\Printing;

use Hafen\Refusal;
use Hafen\Session\Channel\Channel;

/** A channel that cannot be frozen. */
final class FreezeRefused extends Refusal
{
    public static function noSuchChannel(string $id): self
    {
        return new self('channel', "There is no channel \"{$id}\" any more.");
    }

    public static function kind(Channel $channel): self
    {
        return new self('channel', "{$channel->name} cannot be frozen: it is a {$channel->kind->word()}, and what it puts out depends on all that plays. Freeze tracks, groups or returns.");
    }

    public static function empty(Channel $channel): self
    {
        return new self('length', "{$channel->name} cannot be frozen: the session has no length. Put a clip on a track first.");
    }

    public static function fault(Channel $channel, int $position): self
    {
        return new self('channel', "{$channel->name} was not frozen: it put out something that is not a number at sample {$position}. Look for an insert that overloads.");
    }
}
