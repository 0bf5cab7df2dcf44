<?php

declare(strict_types=1);

namespace Hafen\Edit\Refusals;

use Hafen\Edit\EditRefused;

/** A fader set by hand that automation moves. */
final class FaderIsAutomated extends EditRefused
{
    public static function of(string $name): self
    {
        return new self('automation', "The fader of {$name} is automated. Mute it, or take its automation away first.");
    }
}
