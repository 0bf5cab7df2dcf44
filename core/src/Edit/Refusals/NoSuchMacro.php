<?php

declare(strict_types=1);

namespace Hafen\Edit\Refusals;

use Hafen\Edit\EditRefused;

final class NoSuchMacro extends EditRefused
{
    public static function withId(string $id): self
    {
        return new self('macro', "There is no macro \"{$id}\" any more.");
    }
}
