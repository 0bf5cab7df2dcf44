<?php

declare(strict_types=1);

namespace App\Listening;

use Hafen\Refusal;

/** As many listen as can be served. */
final class AllListening extends Refusal
{
    public static function most(int $most): self
    {
        return new self('listening', "{$most} windows are playing already, which is all there can be. Stop one of them first.");
    }
}
