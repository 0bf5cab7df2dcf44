<?php

declare(strict_types=1);

namespace Hafen\Edit\Refusals;

use Hafen\Edit\EditRefused;

/** An edit of an insert that is not there any more. */
final class NoSuchInsert extends EditRefused
{
    public static function withId(string $id): self
    {
        return new self('insert', "There is no insert \"{$id}\" any more.");
    }
}
