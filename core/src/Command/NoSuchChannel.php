<?php

declare(strict_types=1);

namespace Hafen\Command;

use Hafen\Refusal;
use Hafen\Session\Channel\Channel;
use Hafen\Session\Session;

/** A channel was asked for that the session has not. `place` is what was asked for. */
final class NoSuchChannel extends Refusal
{
    public static function named(string $wanted, Session $session): self
    {
        $ids = array_map(static fn (Channel $channel): string => $channel->id, $session->channels);

        return new self($wanted, 'There is no such channel. There are: '.implode(', ', $ids).'.');
    }
}
