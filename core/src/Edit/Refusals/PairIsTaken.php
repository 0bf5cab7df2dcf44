<?php

declare(strict_types=1);

namespace Hafen\Edit\Refusals;

use Hafen\Edit\EditRefused;

/** An output to a pair that another channel goes to. */
final class PairIsTaken extends EditRefused
{
    public static function by(string $pair, string $by): self
    {
        return new self('output', "{$by} already goes to \"{$pair}\". Choose another pair, or send {$by} elsewhere first.");
    }
}
