<?php

declare(strict_types=1);

namespace Hafen\Edit\Refusals;

use Hafen\Edit\EditRefused;

/** A branch more than a split can have. */
final class TooManyBranches extends EditRefused
{
    public static function thanMost(int $most): self
    {
        return new self('branch', "This split has {$most} branches, which is the most there can be.");
    }
}
