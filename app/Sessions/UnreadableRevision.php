<?php

declare(strict_types=1);

namespace App\Sessions;

use Hafen\Refusal;

/** A revision whose document cannot be put together any more. */
final class UnreadableRevision extends Refusal
{
    public static function damaged(): self
    {
        return new self('revision', 'This revision cannot be read: its bytes are damaged. Go to another.');
    }

    public static function orphaned(): self
    {
        return new self('revision', 'This revision cannot be read: the one it was made from is gone. Go to another.');
    }
}
