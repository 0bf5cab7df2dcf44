<?php

declare(strict_types=1);

namespace Hafen\Edit\Sound;

use Hafen\Edit\Macro\Macros;
use Hafen\Edit\Refusals\NoSuchSound;
use Hafen\Edit\Split\Branches;
use Hafen\Session\Channel\Channel;
use Hafen\Session\Session;
use Hafen\Session\Sound\Sound;
use Hafen\Session\Sound\SoundLocation;
use Hafen\Session\Sound\SoundSwitch;

/** Finds sound switches and their sounds, and names them. */
final class Sounds
{
    public static function find(Session $session, string $switch): SoundLocation
    {
        return $session->soundSwitch($switch) ?? throw NoSuchSound::switchWithId($switch);
    }

    /** @param  callable(SoundSwitch): SoundSwitch  $change */
    public static function change(Session $session, string $switch, callable $change): Session
    {
        $location = self::find($session, $switch);

        return $session->withChannel($location->channel->withSoundSwitch($change($location->switch)));
    }

    public static function sound(SoundSwitch $switch, string $id): Sound
    {
        return $switch->sound($id) ?? throw NoSuchSound::withId($id);
    }

    /** "Lead of Upright bass". */
    public static function named(Session $session, string $switch, ?string $sound = null): string
    {
        $location = $session->soundSwitch($switch);
        $name = $sound === null ? $location?->switch->name : $location?->switch->sound($sound)?->name;

        return $location === null || $name === null ? 'Sound' : "{$name} of {$location->channel->name}";
    }

    /** @return list<string> the parts of a session a switch moves */
    public static function paths(?SoundSwitch $switch): array
    {
        return array_map(Macros::path(...), $switch === null ? [] : $switch->targets());
    }

    /** @return list<string> the rows of a channel, from which a sound is made */
    public static function rows(?Channel $channel): array
    {
        return array_merge(...array_map(Branches::within(...), $channel === null ? [] : [...$channel->inserts, ...$channel->postInserts]));
    }
}
