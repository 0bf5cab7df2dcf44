<?php

declare(strict_types=1);

namespace Hafen\Document;

use Hafen\Refusal;

/** A document, or a part of one, that does not hold to the format. `place` is a JSON pointer. */
final class InvalidDocument extends Refusal
{
    public static function at(string $pointer, string $what): self
    {
        return new self($pointer === '' ? '/' : $pointer, $what.'.');
    }

    public static function unreadable(string $path): self
    {
        return new self($path, 'There is no readable document here.');
    }

    public static function notJson(string $reason): self
    {
        return new self('/', "This is not JSON: {$reason}.");
    }

    public static function tooLarge(int $bytes, int $most): self
    {
        return new self('/', "The document has {$bytes} bytes; at most {$most} are read.");
    }
}
