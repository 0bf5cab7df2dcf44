<?php

declare(strict_types=1);

namespace Hafen\Edit\Refusals;

use Hafen\Edit\EditRefused;

/** An edit of a split that names another insert. */
final class NotASplit extends EditRefused
{
    public static function withId(string $id): self
    {
        return new self('split', "The insert \"{$id}\" is not a split.");
    }
}
