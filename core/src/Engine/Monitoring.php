<?php

declare(strict_types=1);

namespace Hafen\Engine;

use Hafen\Routing\QuickMonitoring;
use Hafen\Routing\SessionGraph;
use Hafen\Session\Automation\AutomationLane;
use Hafen\Session\Channel\Channel;
use Hafen\Session\Channel\ChannelKind;
use Hafen\Session\Session;
use Hafen\Session\Source\ClipSource;
use Hafen\Session\Source\LiveSource;
use Hafen\Session\Source\NoteSource;

/** What an engine plays of a session while live inputs are heard. Files are made of the session itself. */
final class Monitoring
{
    /**
     * The session in which tracks whose input is heard carry what comes in, in place of their clips.
     *
     * @param  list<string>  $armed  ids of the tracks that are armed
     * @param  ?QuickMonitoring  $quick  leaves out what makes them late; null leaves nothing out
     */
    public static function heardIn(Session $session, array $armed, ?QuickMonitoring $quick = null): Session
    {
        $live = [];
        foreach ($session->channels as $channel) {
            if (self::isHeard($channel, in_array($channel->id, $armed, true)) && $channel->source instanceof ClipSource && $channel->source->input !== null) {
                $live[$channel->id] = ($quick?->of($session, $channel) ?? $channel)->withSource(new LiveSource($channel->source->input->port));
            }
        }

        return $live === [] ? $session : $session->withChannels(array_map(static fn (Channel $channel): Channel => $live[$channel->id] ?? $channel, $session->channels));
    }

    /** Whether the input of a channel is heard. A frozen one plays its file, and one that is off nothing. */
    public static function isHeard(Channel $channel, bool $isArmed): bool
    {
        return $channel->source instanceof ClipSource && $channel->source->input?->monitor->hears($isArmed) === true && $channel->frozen === null && ! $channel->off;
    }

    /** Whether any input is heard in what {@see heardIn()} gave. */
    public static function isLive(Session $session): bool
    {
        foreach ($session->channels as $channel) {
            if ($channel->source instanceof LiveSource) {
                return true;
            }
        }

        return false;
    }

    /**
     * The same while nothing plays: only what comes in sounds, and what moves over time stands where it is at a position.
     *
     * @param  ?string  $played  id of the note channel whose keys somebody plays
     */
    public static function standing(Session $session, int $position, ?string $played = null): Session
    {
        $routes = SessionGraph::routes($session);
        $sounding = [];
        foreach ($routes->order() as $id) {
            $source = $session->channel($id)?->source;
            if ($source instanceof LiveSource || $id === $played || array_intersect_key($sounding, array_flip($routes->sources($id))) !== []) {
                $sounding[$id] = true;
            }
        }

        return $session->withChannels(array_map(static function (Channel $channel) use ($position, $sounding, $played): Channel {
            if (! isset($sounding[$channel->id]) && $channel->kind !== ChannelKind::Main) {
                return $channel->withOff(true)->withFrozen(null);
            }

            if ($channel->source instanceof NoteSource) {
                $channel = $channel->withSource(new NoteSource(isPlayed: $channel->id === $played));
            }

            return $channel->withFrozen(null)->withClick(null)->withAutomation(array_map(static fn (AutomationLane $lane): AutomationLane => $lane->heldAt($position), $channel->automation));
        }, $session->channels));
    }
}
