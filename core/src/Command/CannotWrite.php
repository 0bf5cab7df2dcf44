<?php

declare(strict_types=1);

namespace Hafen\Command;

use Hafen\Refusal;

/** A place that cannot be written to. */
final class CannotWrite extends Refusal
{
    public static function session(string $path): self
    {
        return new self($path, 'The session cannot be written here: the folder is missing, closed or full.');
    }

    public static function folder(string $path): self
    {
        return new self($path, 'This folder cannot be made or written to.');
    }
}
