<?php

declare(strict_types=1);

namespace Hafen\Edit\Refusals;

use Hafen\Edit\EditRefused;

/** An insert for a row that has as many as it can have. */
final class RowIsFull extends EditRefused
{
    public static function of(string $name, int $most): self
    {
        return new self('row', "{$name} already has {$most} inserts in this row, which is the most there can be.");
    }
}
