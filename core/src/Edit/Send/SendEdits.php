<?php

declare(strict_types=1);

namespace Hafen\Edit\Send;

use Hafen\Edit\Channels;
use Hafen\Edit\EditRefused;
use Hafen\Edit\Refusals\NoSuchSend;
use Hafen\Edit\Refusals\NothingSelected;
use Hafen\Session\Channel\Channel;
use Hafen\Session\Channel\Send;
use Hafen\Session\Channel\SendLocation;
use Hafen\Session\Session;

/** Finds sends, changes several at once, and names them. */
final class SendEdits
{
    public static function find(Session $session, string $id): SendLocation
    {
        return $session->send($id) ?? throw NoSuchSend::withId($id);
    }

    /**
     * @param  list<string>  $ids
     * @param  callable(Send): Send  $change
     */
    public static function each(Session $session, array $ids, callable $change): Session
    {
        if ($ids === []) {
            throw NothingSelected::atAll();
        }
        $changed = [];
        foreach (self::locations($session, $ids) as $location) {
            $changed[$location->channel->id] = ($changed[$location->channel->id] ?? $location->channel)->withSend($change($location->send));
        }

        return $session->withChannels(array_map(static fn (Channel $channel): Channel => $changed[$channel->id] ?? $channel, $session->channels));
    }

    /**
     * Where some sends stand, found in one pass.
     *
     * @param  list<string>  $ids
     * @return list<SendLocation> in the order of the ids
     *
     * @throws EditRefused when one is not there
     */
    public static function locations(Session $session, array $ids): array
    {
        $locations = [];
        foreach ($session->channels as $channel) {
            foreach ($channel->sends as $send) {
                $locations[$send->id] = new SendLocation($channel, $send);
            }
        }

        return array_map(static fn (string $id): SendLocation => $locations[$id] ?? throw NoSuchSend::withId($id), $ids);
    }

    /**
     * "Send of Cello to Plate", or "3 sends".
     *
     * @param  list<string>  $ids
     */
    public static function named(Session $session, array $ids): string
    {
        $location = count($ids) === 1 ? $session->send($ids[0]) : null;
        if ($location === null) {
            return count($ids).' sends';
        }

        return "Send of {$location->channel->name} to ".($session->channel($location->send->to)->name ?? $location->send->to);
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
