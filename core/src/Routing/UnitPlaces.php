<?php

declare(strict_types=1);

namespace Hafen\Routing;

use Hafen\Processor\ProcessorCatalogue;
use Hafen\Session\Automation\AutomationTarget;
use Hafen\Session\Automation\ControlCurves;
use Hafen\Session\Channel\Channel;
use Hafen\Session\Hardware\HardwareLoop;
use Hafen\Session\Insert\HardwareInsert;
use Hafen\Session\Insert\Insert;
use Hafen\Session\Insert\Inserts;
use Hafen\Session\Session;

/** Where hardware loops are at work in a session: inserts that are on, in channels that are worked. */
final class UnitPlaces
{
    /** @return list<array{Channel, HardwareInsert}> in the order of the channels */
    public static function of(Session $session): array
    {
        return SessionGraph::unitPlaces($session);
    }

    /**
     * Looks for them; {@see of()} does so once for each session.
     *
     * @return list<array{Channel, HardwareInsert}>
     */
    public static function find(Session $session): array
    {
        $places = [];
        foreach ($session->loops === [] ? [] : $session->channels as $channel) {
            if ($channel->off) {
                continue;
            }
            foreach (self::inserts($channel) as $insert) {
                if ($insert instanceof HardwareInsert && self::isAtWork($channel, $insert)) {
                    $places[] = [$channel, $insert];
                }
            }
        }

        return $places;
    }

    /** The first two places that need one unit at the same time; null where each has it to itself. A unit is in one place at a time. */
    public static function conflict(Session $session, ProcessorCatalogue $processors): ?UnitConflict
    {
        $places = self::of($session);
        $times = null;
        foreach ($places as $i => [$one, $insert]) {
            foreach (array_slice($places, $i + 1) as [$other, $another]) {
                $loop = $session->loop($insert->loop);
                if ($loop === null || $insert->loop !== $another->loop) {
                    continue;
                }
                $times ??= new SoundingTimes($session, $processors);
                if ($one->id === $other->id || $times->overlap($one->id, $other->id)) {
                    return new UnitConflict($loop, $one, $other);
                }
            }
        }

        return null;
    }

    /**
     * The loops the sound of channels goes through.
     *
     * @param  ?list<string>  $channels  ids; null is all of them
     * @return list<HardwareLoop>
     */
    public static function loops(Session $session, ?array $channels): array
    {
        $needed = null;
        if ($channels !== null) {
            $routes = SessionGraph::routes($session);
            $needed = array_merge($channels, ...array_map($routes->needed(...), $channels));
        }
        $loops = [];
        foreach (self::of($session) as [$channel, $insert]) {
            $loop = $session->loop($insert->loop);
            if ($loop !== null && ($needed === null || in_array($channel->id, $needed, true))) {
                $loops[$loop->id] = $loop;
            }
        }

        return array_values($loops);
    }

    /**
     * Whether any of some channels has hardware at work.
     *
     * @param  array<string, mixed>  $channels  by their id
     */
    public static function among(Session $session, array $channels): bool
    {
        foreach (self::of($session) as [$channel]) {
            if (isset($channels[$channel->id])) {
                return true;
            }
        }

        return false;
    }

    /** A loop at work in two sessions that another sound would go into in one than in the other; null where none is. */
    public static function fedOtherwise(Session $session, Session $other): ?HardwareLoop
    {
        foreach (self::of($session) as [$channel, $insert]) {
            $same = array_filter(self::of($other), static fn (array $place): bool => $place[1]->id === $insert->id);
            if ($same === []) {
                continue;
            }
            $needed = [...SessionGraph::routes($session)->needed($channel->id), ...SessionGraph::routes($other)->needed($channel->id)];
            $differs = array_filter($needed, static fn (string $id): bool => $id !== $channel->id && $session->channel($id) != $other->channel($id));
            if ($differs !== [] || self::into($channel, $insert->id) != self::into(array_values($same)[0][0], $insert->id)) {
                return $session->loop($insert->loop);
            }
        }

        return null;
    }

    /**
     * What of a channel comes before an insert, or stands around it.
     *
     * @return list<mixed>
     */
    private static function into(Channel $channel, string $insert): array
    {
        $before = [$channel->source, $channel->trim, $channel->insertsOn];
        foreach ([...$channel->inserts, null, ...$channel->postInserts] as $one) {
            $before[] = $one ?? [$channel->fader, $channel->pan, $channel->mute];
            if ($one !== null && in_array($insert, array_map(static fn (Insert $within): string => $within->id(), Inserts::all([$one])), true)) {
                return $one->id() === $insert ? array_slice($before, 0, -1) : $before;
            }
        }

        return $before;
    }

    /** The session with all hardware bypassed: sound goes on as late as before, without its units. */
    public static function bypassed(Session $session): Session
    {
        foreach (self::of($session) as [, $insert]) {
            $location = $session->locate($insert->id);
            $session = $location === null ? $session : $session->withInsert($location, $insert->withOn(false));
        }

        return $session;
    }

    /** Whether a channel has hardware at work. */
    public static function has(Session $session, string $channel): bool
    {
        return self::among($session, [$channel => true]);
    }

    /** @return list<Insert> those that are worked: of a frozen channel, what comes after its fader */
    private static function inserts(Channel $channel): array
    {
        return $channel->frozen === null ? $channel->allInserts() : Inserts::all($channel->postInserts);
    }

    private static function isAtWork(Channel $channel, HardwareInsert $insert): bool
    {
        return $channel->insertsOn
            && ($insert->on || ControlCurves::isMoved($channel, "on:{$insert->id}"))
            && ($insert->mix > 0.0 || ControlCurves::isMoved($channel, AutomationTarget::mix($insert->id)->text()));
    }
}
