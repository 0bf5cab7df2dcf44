<?php

declare(strict_types=1);

namespace Hafen\Engine;

use Hafen\Audio\Samples;
use Hafen\Metering\MusicalKey;
use Hafen\Session\Channel\Channel;
use Hafen\Session\Session;
use Hafen\Session\Source\Clip;

/** Finds the musical key a track's clips are most likely in. */
final class ChannelKey
{
    /** Seconds that are listened to, from the first clip on. */
    private const SECONDS = 60;

    /** Returns null when the channel has no clips or no key is found. */
    public static function of(Session $session, Channel $channel, AudioLibrary $library): ?MusicalKey
    {
        $clips = $channel->source->clips();
        if ($clips === []) {
            return null;
        }
        $player = new ClipPlayer($library, $session->sampleRate);
        $player->set($clips, $channel->width);
        $start = min(array_map(static fn (Clip $clip): int => $clip->start, $clips));
        $block = $player->read($start, min($session->length - $start, self::SECONDS * $session->sampleRate));

        return MusicalKey::of(Samples::mid($block->left, $block->right()), $session->sampleRate);
    }
}
