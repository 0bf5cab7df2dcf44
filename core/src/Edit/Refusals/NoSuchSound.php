<?php

declare(strict_types=1);

namespace Hafen\Edit\Refusals;

use Hafen\Edit\EditRefused;

final class NoSuchSound extends EditRefused
{
    public static function switchWithId(string $id): self
    {
        return new self('switch', "There is no sound switch \"{$id}\" any more.");
    }

    public static function withId(string $id): self
    {
        return new self('sound', "There is no sound \"{$id}\" any more.");
    }
}
