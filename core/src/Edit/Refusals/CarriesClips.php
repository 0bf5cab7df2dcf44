<?php

declare(strict_types=1);

namespace Hafen\Edit\Refusals;

use Hafen\Edit\EditRefused;

/** Another source for a track that carries clips. */
final class CarriesClips extends EditRefused
{
    public static function named(string $name): self
    {
        return new self('source', "{$name} carries clips. Use a track without clips, so that nothing is lost.");
    }
}
