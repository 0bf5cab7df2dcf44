<?php

declare(strict_types=1);

namespace Hafen\Edit\Refusals;

use Hafen\Edit\EditRefused;

/** An edit of a channel that is not there any more. */
final class NoSuchChannel extends EditRefused
{
    public static function withId(string $id): self
    {
        return new self('channel', "There is no channel \"{$id}\" any more.");
    }
}
