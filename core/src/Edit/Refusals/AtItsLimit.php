<?php

declare(strict_types=1);

namespace Hafen\Edit\Refusals;

use Hafen\Edit\EditRefused;

/** A relative move of several values, one of which would leave its range. */
final class AtItsLimit extends EditRefused
{
    public static function of(string $what, string $limit): self
    {
        return new self('range', "{$what} is at its limit of {$limit}. Nothing was moved, so that the others keep their relation.");
    }
}
