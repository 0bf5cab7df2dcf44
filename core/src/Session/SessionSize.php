<?php

declare(strict_types=1);

namespace Hafen\Session;

use Hafen\Session\Sound\Sound;
use Hafen\Session\Source\NoteSource;

/** How much a session may hold, so that it can still be worked with: far more than any mix. */
final class SessionSize
{
    /** Inserts, branches, sends, clips, notes, points of automation, macros and sound switches with what they move, together. */
    public const MOST_PARTS = 60_000;

    /** @throws SessionTooLarge */
    public static function check(Session $session): void
    {
        $parts = 0;
        foreach ($session->channels as $channel) {
            $parts += count($channel->sends) + count($channel->source->clips());
            foreach ($channel->source instanceof NoteSource ? $channel->source->notes : [] as $clip) {
                $parts += 1 + count($clip->notes) + count($clip->controls);
            }
            foreach ($channel->allInserts() as $insert) {
                $parts += 1 + count($insert->branches());
            }
            foreach ($channel->macros as $macro) {
                $parts += 1 + count($macro->moves);
            }
            foreach ($channel->sounds as $switch) {
                $parts += 1 + array_sum(array_map(static fn (Sound $sound): int => count($sound->values), $switch->sounds));
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
