<?php

declare(strict_types=1);

namespace Hafen\Edit\Refusals;

use Hafen\Edit\EditRefused;

final class NoSuchNoteClip extends EditRefused
{
    public static function withId(string $id): self
    {
        return new self('clip', "There is no clip \"{$id}\" of notes any more.");
    }
}
