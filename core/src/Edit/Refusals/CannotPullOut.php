<?php

declare(strict_types=1);

namespace Hafen\Edit\Refusals;

use Hafen\Edit\EditRefused;

/** A branch that cannot become a channel of its own. */
final class CannotPullOut extends EditRefused
{
    public static function because(string $why): self
    {
        return new self('branch', $why);
    }
}
