<?php

declare(strict_types=1);

namespace Hafen\Edit\Refusals;

use Hafen\Edit\EditRefused;

/** An edit that names nothing. */
final class NothingSelected extends EditRefused
{
    public static function atAll(): self
    {
        return new self('selection', 'No channel, insert or send was named; name at least one.');
    }
}
