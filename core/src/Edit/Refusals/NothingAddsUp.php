<?php

declare(strict_types=1);

namespace Hafen\Edit\Refusals;

use Hafen\Edit\EditRefused;

/** A level to keep where the branches of a split do not add up. */
final class NothingAddsUp extends EditRefused
{
    public static function here(): self
    {
        return new self('split', 'There is no rise to take back: the branches of this split do not carry the same sound, are silent, or cancel each other.');
    }
}
