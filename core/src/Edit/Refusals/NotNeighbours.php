<?php

declare(strict_types=1);

namespace Hafen\Edit\Refusals;

use Hafen\Edit\EditRefused;

/** Inserts wrapped in a branch that do not stand next to each other. */
final class NotNeighbours extends EditRefused
{
    public static function inRow(): self
    {
        return new self('selection', 'Only inserts that stand next to each other can go into a branch together.');
    }
}
