<?php

declare(strict_types=1);

namespace Hafen\Edit\Refusals;

use Hafen\Edit\EditRefused;

/** An edit of a send that is not there any more. */
final class NoSuchSend extends EditRefused
{
    public static function withId(string $id): self
    {
        return new self('send', "There is no send \"{$id}\" any more.");
    }
}
