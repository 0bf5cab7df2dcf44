<?php

declare(strict_types=1);

namespace Hafen\Document;

use Hafen\Refusal;

/** Something the format knows and this version does not do yet. `place` is a JSON pointer. */
final class NotYetSupported extends Refusal
{
    public static function at(string $pointer, string $what): self
    {
        return new self($pointer, "Not yet: {$what}. This version has no notes or hardware loops.");
    }
}
