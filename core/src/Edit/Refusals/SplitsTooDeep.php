<?php

declare(strict_types=1);

namespace Hafen\Edit\Refusals;

use Hafen\Edit\EditRefused;

/** A split in a branch of a split in a branch, deeper than splits stand. */
final class SplitsTooDeep extends EditRefused
{
    public static function thanMost(int $most): self
    {
        return new self('split', "Splits stand in branches of splits at most {$most} deep.");
    }
}
