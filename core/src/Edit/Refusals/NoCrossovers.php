<?php

declare(strict_types=1);

namespace Hafen\Edit\Refusals;

use Hafen\Edit\EditRefused;

/** Crossovers for a split that has none. */
final class NoCrossovers extends EditRefused
{
    public static function here(): self
    {
        return new self('crossovers', 'Only a split by frequency has crossovers.');
    }
}
