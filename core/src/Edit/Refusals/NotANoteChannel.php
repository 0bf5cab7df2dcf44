<?php

declare(strict_types=1);

namespace Hafen\Edit\Refusals;

use Hafen\Edit\EditRefused;

final class NotANoteChannel extends EditRefused
{
    public static function named(string $name): self
    {
        return new self('channel', "{$name} is no note channel. Notes lie on note channels only.");
    }
}
