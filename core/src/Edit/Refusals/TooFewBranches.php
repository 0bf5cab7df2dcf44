<?php

declare(strict_types=1);

namespace Hafen\Edit\Refusals;

use Hafen\Edit\EditRefused;

/** The removal of a branch a split needs. */
final class TooFewBranches extends EditRefused
{
    public static function thanFewest(int $fewest): self
    {
        return new self('branch', "This split needs at least {$fewest} ".($fewest === 1 ? 'branch' : 'branches').'. Dissolve the split instead.');
    }
}
