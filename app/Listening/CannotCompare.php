<?php

declare(strict_types=1);

namespace App\Listening;

use Hafen\Refusal;

/** A comparison that would need one unit of outboard for two sounds at once. */
final class CannotCompare extends Refusal
{
    public static function before(string $loop): self
    {
        return new self('compare', "{$loop} comes after what is compared, and only one sound at a time goes through it. Freeze or print what comes before it, or bypass {$loop}, to compare.");
    }
}
