<?php

declare(strict_types=1);

namespace Hafen\Edit\Refusals;

use Hafen\Edit\EditRefused;

/** A mix copied to a channel that is no cue. */
final class NotACue extends EditRefused
{
    public static function toClick(string $name): self
    {
        return new self('cue', "{$name} is no cue: only cues hear the click.");
    }

    public static function toHear(string $name): self
    {
        return new self('cue', "{$name} is no cue: only cues have a performer.");
    }

    public static function named(string $name, string $kind): self
    {
        return new self('cue', "{$name} is a {$kind}. A mix is copied to a cue.");
    }
}
