<?php

declare(strict_types=1);

namespace Hafen\Edit\Refusals;

use Hafen\Edit\EditRefused;

/** A clip has as many notes or movements as it can, or a channel as many clips. */
final class TooManyNotes extends EditRefused
{
    public static function clipsOn(string $channel, int $most): self
    {
        return new self('channel', "{$channel} has {$most} clips of notes, which is the most. Remove one first.");
    }

    public static function in(string $channel, int $most): self
    {
        return new self('notes', "A clip of {$channel} has {$most} notes, which is the most. Put the others into another clip.");
    }

    public static function movements(string $channel, int $most): self
    {
        return new self('controls', "A clip of {$channel} has {$most} movements of controllers, which is the most. Put the others into another clip.");
    }
}
