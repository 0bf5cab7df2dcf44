<?php

declare(strict_types=1);

namespace Hafen\Edit\Version;

use Hafen\Edit\Channels;
use Hafen\Edit\Refusals\NoSuchVersion;
use Hafen\Edit\Refusals\OnlyTracksCarryClips;
use Hafen\Edit\Refusals\TooManyVersions;
use Hafen\Session\Channel\Channel;
use Hafen\Session\Session;
use Hafen\Session\Source\ClipSource;
use Hafen\Session\Source\Version;

/** Tracks with versions of their clips. */
final class Versions
{
    public const MOST = 64;

    public static function track(Session $session, string $id): Channel
    {
        $channel = Channels::find($session, $id);

        return $channel->source instanceof ClipSource ? $channel : throw OnlyTracksCarryClips::not($channel->name);
    }

    public static function find(Channel $channel, string $id): Version
    {
        foreach ($channel->versions as $version) {
            if ($version->id === $id) {
                return $version;
            }
        }
        throw NoSuchVersion::of($channel->name, $id);
    }

    /** The channel with its present clips kept under a name as well. */
    public static function keep(Channel $channel, string $name): Channel
    {
        if (count($channel->versions) >= self::MOST) {
            throw TooManyVersions::of($channel->name, self::MOST);
        }
        $ids = array_map(static fn (Version $version): string => $version->id, $channel->versions);
        for ($number = 1; in_array("v{$number}", $ids, true); ++$number);

        return $channel->withVersions([...$channel->versions, new Version("v{$number}", $name, $channel->source->clips())]);
    }

    public static function without(Channel $channel, string $id): Channel
    {
        return $channel->withVersions(array_values(array_filter($channel->versions, static fn (Version $version): bool => $version->id !== $id)));
    }
}
