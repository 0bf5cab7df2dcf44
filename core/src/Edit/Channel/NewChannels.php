<?php

declare(strict_types=1);

namespace Hafen\Edit\Channel;

use Hafen\Edit\Refusals\TooManyChannels;
use Hafen\Session\Channel\Channel;
use Hafen\Session\Channel\ChannelKind;
use Hafen\Session\Session;

/** Puts new channels where their kind stands: tracks, groups, returns, cues, the main. */
final class NewChannels
{
    public const MOST = 512;

    private const LONGEST_NAME = 120;

    public static function put(Session $session, Channel $channel): Session
    {
        if (count($session->channels) >= self::MOST) {
            throw TooManyChannels::thanMost(self::MOST);
        }
        $at = 0;
        foreach ($session->channels as $index => $other) {
            if (self::rank($other->kind) <= self::rank($channel->kind)) {
                $at = $index + 1;
            }
        }
        $main = array_search($session->main(), $session->channels, true);
        $channels = $session->channels;
        array_splice($channels, min($at, (int) $main), 0, [$channel]);

        return $session->withChannels($channels);
    }

    /** A name that no channel has: "Plate", then "Plate 2". */
    public static function name(Session $session, string $wanted): string
    {
        $taken = array_map(static fn (Channel $channel): string => $channel->name, $session->channels);
        $name = $wanted;
        for ($number = 2; in_array($name, $taken, true); ++$number) {
            $name = mb_substr($wanted, 0, self::LONGEST_NAME - 1 - strlen((string) $number))." {$number}";
        }

        return $name;
    }

    private static function rank(ChannelKind $kind): int
    {
        return match ($kind) {
            ChannelKind::Track, ChannelKind::Note => 0,
            ChannelKind::Group => 1,
            ChannelKind::Return => 2,
            ChannelKind::Cue => 3,
            ChannelKind::Main => 4,
        };
    }
}
