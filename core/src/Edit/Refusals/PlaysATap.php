<?php

declare(strict_types=1);

namespace Hafen\Edit\Refusals;

use Hafen\Edit\EditRefused;

/** An input for a track that plays what another channel carries. */
final class PlaysATap extends EditRefused
{
    public static function named(string $name): self
    {
        return new self('input', "{$name} plays a tap of another channel. Let it play clips before it takes an input.");
    }
}
