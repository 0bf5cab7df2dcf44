<?php

declare(strict_types=1);

namespace Hafen\Edit\Refusals;

use Hafen\Edit\EditRefused;

/** The removal of a channel another takes its sound from. */
final class FeedsAnother extends EditRefused
{
    public static function from(string $name, string $to): self
    {
        return new self('source', "{$to} takes its sound from a tap of {$name}. Remove {$to} too, or give it another source first.");
    }
}
