<?php

declare(strict_types=1);

namespace Hafen\Edit\Refusals;

use Hafen\Edit\EditRefused;

/** A channel has as many macros as it can, or a macro moves as much as it can. */
final class TooManyMacros extends EditRefused
{
    public static function on(string $channel, int $most): self
    {
        return new self('channel', "{$channel} has {$most} macros, which is the most. Remove one first.");
    }

    public static function moves(string $macro, int $most): self
    {
        return new self('macro', "{$macro} moves {$most} controls, which is the most. Let it move one less first.");
    }
}
