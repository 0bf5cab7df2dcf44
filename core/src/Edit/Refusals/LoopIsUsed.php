<?php

declare(strict_types=1);

namespace Hafen\Edit\Refusals;

use Hafen\Edit\EditRefused;

/** A hardware loop that inserts still go through. */
final class LoopIsUsed extends EditRefused
{
    public static function on(string $loop, string $channel): self
    {
        return new self('loop', "{$loop} is an insert on {$channel}. Remove it there first.");
    }
}
