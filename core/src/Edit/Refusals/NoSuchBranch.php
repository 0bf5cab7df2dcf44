<?php

declare(strict_types=1);

namespace Hafen\Edit\Refusals;

use Hafen\Edit\EditRefused;

/** An edit of a branch that is not there any more. */
final class NoSuchBranch extends EditRefused
{
    public static function withId(string $id): self
    {
        return new self('branch', "There is no branch \"{$id}\" any more.");
    }
}
