<?php

declare(strict_types=1);

namespace App\Sessions;

use Hafen\Refusal;

/** The first or the last revision has been reached. */
final class NothingToUndo extends Refusal
{
    public static function back(): self
    {
        return new self('undo', 'Nothing to undo: this is the first revision.');
    }

    public static function forward(): self
    {
        return new self('redo', 'Nothing to redo: this is the newest revision.');
    }
}
