<?php

declare(strict_types=1);

namespace Hafen\Edit;

use Hafen\Session\Channel;
use Hafen\Session\Send;
use Hafen\Session\SendPlace;
use Hafen\Session\Session;

/** Finds sends, changes several at once, and names them. */
final class SendEdits
{
    public static function find(Session $session, string $id): SendPlace
    {
        return $session->send($id) ?? throw EditRefused::noSuchSend($id);
    }

    /**
     * @param  list<string>  $ids
     * @param  callable(Send): Send  $change
     */
    public static function each(Session $session, array $ids, callable $change): Session
    {
        if ($ids === []) {
            throw EditRefused::nothingSelected();
        }
        $changed = [];
        foreach (self::places($session, $ids) as $place) {
            $changed[$place->channel->id] = ($changed[$place->channel->id] ?? $place->channel)->withSend($change($place->send));
        }

        return $session->withChannels(array_map(static fn (Channel $channel): Channel => $changed[$channel->id] ?? $channel, $session->channels));
    }

    /**
     * Where some sends stand, found in one pass.
     *
     * @param  list<string>  $ids
     * @return list<SendPlace> in the order of the ids
     *
     * @throws EditRefused when one is not there
     */
    public static function places(Session $session, array $ids): array
    {
        $places = [];
        foreach ($session->channels as $channel) {
            foreach ($channel->sends as $send) {
                $places[$send->id] = new SendPlace($channel, $send);
            }
        }

        return array_map(static fn (string $id): SendPlace => $places[$id] ?? throw EditRefused::noSuchSend($id), $ids);
    }

    /**
     * "Send of Cello to Plate", or "3 sends".
     *
     * @param  list<string>  $ids
     */
    public static function named(Session $session, array $ids): string
    {
        $place = count($ids) === 1 ? $session->send($ids[0]) : null;
        if ($place === null) {
            return count($ids).' sends';
        }

        return "Send of {$place->channel->name} to ".($session->channel($place->send->to)->name ?? $place->send->to);
    }

    /**
     * @param  list<string>  $ids
     * @return list<string>
     */
    public static function paths(array $ids, string $part): array
    {
        return array_map(static fn (string $id): string => "sends/{$id}/{$part}", $ids);
    }

    /**
     * What a new way from some channels to another rests on.
     *
     * @param  list<string>  $channels
     * @return list<string>
     */
    public static function newPaths(array $channels, string $to): array
    {
        return [
            ...Channels::paths($channels, "sends/{$to}"),
            ...array_map(static fn (string $id): string => "channels/{$to}/feeds/{$id}", $channels),
        ];
    }
}
