<?php

declare(strict_types=1);

namespace Hafen\Edit\Refusals;

use Hafen\Edit\EditRefused;

/** A channel more than a session can have. */
final class TooManyChannels extends EditRefused
{
    public static function thanMost(int $most): self
    {
        return new self('channels', "A session has at most {$most} channels.");
    }
}
