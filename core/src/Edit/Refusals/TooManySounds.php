<?php

declare(strict_types=1);

namespace Hafen\Edit\Refusals;

use Hafen\Edit\EditRefused;

/** A channel has as many sound switches as it can, or a switch as many sounds. */
final class TooManySounds extends EditRefused
{
    public static function switchesOn(string $channel, int $most): self
    {
        return new self('channel', "{$channel} has {$most} sound switches, which is the most. Remove one first.");
    }

    public static function of(string $switch, int $most): self
    {
        return new self('switch', "{$switch} has {$most} sounds, which is the most. Remove one first.");
    }
}
