<?php

declare(strict_types=1);

namespace Hafen\Edit\Refusals;

use Hafen\Edit\EditRefused;

/** A channel of a kind that goes into no group. */
final class CannotBeGrouped extends EditRefused
{
    public static function of(string $name, string $kind): self
    {
        return new self('group', "{$name} is a {$kind} and cannot go into a group.");
    }
}
