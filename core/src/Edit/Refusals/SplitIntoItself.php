<?php

declare(strict_types=1);

namespace Hafen\Edit\Refusals;

use Hafen\Edit\EditRefused;

/** A split moved into one of its own branches. */
final class SplitIntoItself extends EditRefused
{
    public static function always(): self
    {
        return new self('split', 'A split cannot go into one of its own branches.');
    }
}
