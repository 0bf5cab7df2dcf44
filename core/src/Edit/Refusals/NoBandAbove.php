<?php

declare(strict_types=1);

namespace Hafen\Edit\Refusals;

use Hafen\Edit\EditRefused;

/** A band above crossovers that leave no room for it. */
final class NoBandAbove extends EditRefused
{
    public static function frequency(float $frequency): self
    {
        return new self('crossovers', sprintf('There is no room for a band above %.0f Hz. Lower the crossovers first.', $frequency));
    }
}
