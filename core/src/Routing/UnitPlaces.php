<?php

declare(strict_types=1);

namespace Hafen\Routing;

use Hafen\Processor\ProcessorCatalogue;
use Hafen\Session\Channel\Channel;
use Hafen\Session\Automation\AutomationTarget;
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
        return $channel->insertsOn && $insert->on && ($insert->mix > 0.0 || $channel->lane(AutomationTarget::mix($insert->id)->text()) !== null);
    }
}
