<?php

declare(strict_types=1);

namespace App\Hardware;

use Hafen\Refusal;

/** A unit of outboard something else sends through just now. */
final class UnitIsBusy extends Refusal
{
    public static function named(string $loop): self
    {
        return new self('loop', "{$loop} is in use: somebody listens through it, or a freeze, a print, a render or a survey goes through it. Wait for its end, or stop it.");
    }
}
