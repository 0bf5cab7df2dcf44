<?php

declare(strict_types=1);

namespace Hafen\Edit\Refusals;

use Hafen\Edit\EditRefused;
use Hafen\Session\Channel\Channel;

/** A main or a cue that is to be switched off. */
final class CannotBeSwitchedOff extends EditRefused
{
    public static function kind(Channel $channel): self
    {
        return new self('off', "{$channel->name} cannot be switched off: it is a {$channel->kind->word()}. Mute it instead.");
    }
}
