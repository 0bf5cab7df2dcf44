<?php

declare(strict_types=1);

namespace Hafen\Edit\Refusals;

use Hafen\Edit\EditRefused;

/** An edit that would move or remove the main. */
final class MainStays extends EditRefused
{
    public static function named(string $name): self
    {
        return new self('main', "{$name} is the main; a session needs it and it stays last.");
    }
}
