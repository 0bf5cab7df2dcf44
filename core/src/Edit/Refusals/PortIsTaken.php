<?php

declare(strict_types=1);

namespace Hafen\Edit\Refusals;

use Hafen\Edit\EditRefused;

/** A port of the audio interface that something else uses. */
final class PortIsTaken extends EditRefused
{
    public static function by(string $ports, string $name): self
    {
        return new self('send', "{$name} uses a port of \"{$ports}\" already. Choose others.");
    }
}
