<?php

declare(strict_types=1);

namespace Hafen\Session;

use Hafen\Refusal;

/** A session would hold more than can be worked with. */
final class SessionTooLarge extends Refusal
{
    public static function parts(int $parts, int $most): self
    {
        return new self('session', "The session would hold {$parts} inserts, sends, clips and points of automation; at most {$most} are allowed. Nothing was changed.");
    }

    public static function bytes(int $bytes, int $most): self
    {
        return new self('session', "The session's document would have {$bytes} bytes; at most {$most} are allowed. Nothing was changed.");
    }

    public static function work(int $things, int $most): self
    {
        return new self('edits', "These edits name {$things} things together; one step may name {$most}. Make several steps of them.");
    }
}
