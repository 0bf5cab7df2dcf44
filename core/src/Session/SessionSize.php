<?php

declare(strict_types=1);

namespace Hafen\Session;

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
            $parts += count($channel->sends) + count($channel->source->clips());
            foreach ($channel->allInserts() as $insert) {
                $parts += 1 + count($insert->branches());
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
