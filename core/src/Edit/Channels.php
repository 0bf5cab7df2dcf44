<?php

declare(strict_types=1);

namespace Hafen\Edit;

use Hafen\Edit\Refusals\NoSuchChannel;
use Hafen\Edit\Refusals\NoSuchInsert;
use Hafen\Edit\Refusals\NotACue;
use Hafen\Edit\Refusals\NothingSelected;
use Hafen\Session\Channel\Channel;
use Hafen\Session\Channel\ChannelKind;
use Hafen\Session\Insert\InsertLocation;
use Hafen\Session\Session;

/** Finds what edits name, or refuses. */
final class Channels
{
    public static function find(Session $session, string $id): Channel
    {
        return $session->channel($id) ?? throw NoSuchChannel::withId($id);
    }

    /** A cue, to say who hears it. @throws NotACue */
    public static function cue(Session $session, string $id): Channel
    {
        $cue = self::find($session, $id);

        return $cue->kind === ChannelKind::Cue ? $cue : throw NotACue::toHear($cue->name);
    }

    public static function insert(Session $session, string $id): InsertLocation
    {
        return $session->locate($id) ?? throw NoSuchInsert::withId($id);
    }

    /**
     * The session with each of some channels changed.
     *
     * @param  list<string>  $ids
     * @param  callable(Channel): Channel  $change
     */
    public static function each(Session $session, array $ids, callable $change): Session
    {
        if ($ids === []) {
            throw NothingSelected::atAll();
        }
        foreach ($ids as $id) {
            self::find($session, $id);
        }

        return $session->withChannels(array_map(
            static fn (Channel $channel): Channel => in_array($channel->id, $ids, true) ? $change($channel) : $channel,
            $session->channels,
        ));
    }

    /**
     * "Cello", or "3 channels".
     *
     * @param  list<string>  $ids
     */
    public static function named(Session $session, array $ids): string
    {
        return count($ids) === 1 ? ($session->channel($ids[0])->name ?? $ids[0]) : count($ids).' channels';
    }

    /**
     * @param  list<string>  $ids
     * @return list<string>
     */
    public static function paths(array $ids, string $part): array
    {
        return array_map(static fn (string $id): string => "channels/{$id}/{$part}", $ids);
    }
}
