<?php

declare(strict_types=1);

namespace Hafen\Session;

use Hafen\Session\Insert\Split;
use Hafen\Session\Source\ClipSource;

/** How much a session may hold, so that it can still be worked with: far more than any mix. */
final class SessionSize
{
    /** Inserts, branches, sends, clips and points of automation together. */
    public const MOST_PARTS = 60_000;

    /** @throws SessionTooLarge */
    public static function check(Session $session): void
    {
        $parts = 0;
        foreach ($session->channels as $channel) {
            $parts += count($channel->sends) + ($channel->source instanceof ClipSource ? count($channel->source->clips) : 0);
            foreach ($channel->allInserts() as $insert) {
                $parts += 1 + ($insert instanceof Split ? count($insert->branches) : 0);
            }
            foreach ($channel->automation as $lane) {
                $parts += count($lane->points);
            }
        }
        if ($parts > self::MOST_PARTS) {
            throw SessionTooLarge::parts($parts, self::MOST_PARTS);
        }
    }
}
