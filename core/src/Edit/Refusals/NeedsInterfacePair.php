<?php

declare(strict_types=1);

namespace Hafen\Edit\Refusals;

use Hafen\Edit\EditRefused;

/** An output that is no pair of the interface. */
final class NeedsInterfacePair extends EditRefused
{
    /** @param  list<string>  $pairs */
    public static function of(string $name, string $found, array $pairs): self
    {
        return new self('output', "{$name} cannot go to \"{$found}\". It goes to an interface pair (".implode(', ', $pairs).'), or "none".');
    }
}
