<?php

declare(strict_types=1);

namespace Hafen\Edit\Refusals;

use Hafen\Edit\EditRefused;

/** An output to a channel that takes none. */
final class TakesNoOutputs extends EditRefused
{
    public static function of(string $name, string $kind): self
    {
        return new self('output', "{$name} is a {$kind}. Outputs go to groups, returns, the main, or nowhere.");
    }
}
