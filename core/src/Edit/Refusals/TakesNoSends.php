<?php

declare(strict_types=1);

namespace Hafen\Edit\Refusals;

use Hafen\Edit\EditRefused;

/** A send to a channel that takes none. */
final class TakesNoSends extends EditRefused
{
    public static function of(string $name, string $kind): self
    {
        return new self('send', "{$name} is a {$kind}. Sends go to returns, cues and groups.");
    }
}
