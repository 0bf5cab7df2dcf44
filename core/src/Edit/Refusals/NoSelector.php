<?php

declare(strict_types=1);

namespace Hafen\Edit\Refusals;

use Hafen\Edit\EditRefused;

final class NoSelector extends EditRefused
{
    public static function of(string $split): self
    {
        return new self('split', "The split \"{$split}\" has no selector.");
    }
}
