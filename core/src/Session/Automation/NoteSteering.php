<?php

declare(strict_types=1);

namespace Hafen\Session\Automation;

use Hafen\Note\HeldKeys;
use Hafen\Note\NoteEvent;
use Hafen\Note\NoteSchedule;
use Hafen\Note\Ticks;
use Hafen\Session\Channel\Channel;
use Hafen\Session\Insert\Selector;
use Hafen\Session\Insert\SelectorNotes;
use Hafen\Session\Insert\Split;
use Hafen\Session\Session;
use Hafen\Session\Sound\SoundControls;
use Hafen\Session\Sound\SoundNotes;
use Hafen\Session\Sound\SoundSwitch;
use Hafen\Session\Source\NoteSource;

/**
 * Selectors and sound switches that notes move: they become lanes, so that all that reads lanes reads notes. A lane that was drawn comes
 * before them.
 */
final class NoteSteering
{
    /** The session with a lane for each selector and sound switch that notes move. */
    public static function lanes(Session $session): Session
    {
        $steered = $session;
        foreach (self::of($session) as $id => $lanes) {
            $channel = $session->channel((string) $id);
            $steered = $channel === null ? $steered : $steered->withChannel($channel->withAutomation([...$channel->automation, ...$lanes]));
        }

        return $steered;
    }

    /** @return array<string, non-empty-list<AutomationLane>> those lanes, by channel id */
    public static function of(Session $session): array
    {
        $made = [];
        foreach ($session->channels as $channel) {
            $lanes = array_values(array_filter(self::lanesOf($session, $channel), static fn (AutomationLane $lane): bool => $channel->lane($lane->target->text()) === null));
            $made += $lanes === [] ? [] : [$channel->id => $lanes];
        }

        return $made;
    }

    /** Whether the notes of a channel move any selector or sound switch. */
    public static function isBy(Session $session, string $notes): bool
    {
        foreach ($session->channels as $channel) {
            foreach ([...self::selectors($channel), ...$channel->sounds] as $moved) {
                if ($moved->notes?->channel === $notes) {
                    return true;
                }
            }
        }

        return false;
    }

    /** The session as the key that was pressed last leaves its selectors and sound switches: they stand still there. */
    public static function held(Session $session, HeldKeys $held, SoundControls $controls): Session
    {
        $pressed = $held->latest();
        if ($pressed === null) {
            return $session;
        }
        [$key, $velocity] = $pressed;
        foreach ($session->channels as $channel) {
            foreach (self::selectors($channel) as $split => $selector) {
                $location = $selector->notes?->channel === $held->channel ? $session->locate((string) $split) : null;
                if ($selector->notes !== null && $location?->insert instanceof Split) {
                    $session = $session->withInsert($location, $location->insert->withSelector($selector->withValue($selector->notes->place($key, $velocity))->withNotes(null)));
                }
            }
            foreach ($channel->sounds as $switch) {
                $place = $switch->notes?->channel === $held->channel ? $switch->notes->place($key, count($switch->sounds)) : null;
                $now = $session->channel($channel->id);
                if ($place !== null && $now !== null) {
                    $session = $controls->chosen($session, $now, $switch->withNotes(null), $switch->sounds[$place]);
                }
            }
        }

        return $session;
    }

    /** @return array<string, Selector> by the id of their split */
    private static function selectors(Channel $channel): array
    {
        $selectors = [];
        foreach ($channel->allInserts() as $insert) {
            $selectors += $insert instanceof Split && $insert->selector !== null ? [$insert->id => $insert->selector] : [];
        }

        return $selectors;
    }

    /** @return list<AutomationLane> */
    private static function lanesOf(Session $session, Channel $channel): array
    {
        $lanes = [];
        foreach (self::selectors($channel) as $split => $selector) {
            $lanes[] = $selector->notes === null ? null : self::lane("selector:{$split}", self::places($selector->value, $selector->notes, self::onsets($session, $selector->notes->channel), $session->sampleRate));
        }
        foreach ($channel->sounds as $switch) {
            $lanes[] = $switch->notes === null ? null : self::lane("sound:{$switch->id}", self::chosen($switch, $switch->notes, self::onsets($session, $switch->notes->channel)));
        }

        return array_values(array_filter($lanes));
    }

    /** @param  list<AutomationPoint>  $points */
    private static function lane(string $target, array $points): ?AutomationLane
    {
        $of = AutomationTarget::fromString($target);

        return $of === null || $points === [] ? null : new AutomationLane($of, $points);
    }

    /** @return list<NoteEvent> where notes of a channel begin; of several at once the last */
    private static function onsets(Session $session, string $channel): array
    {
        $source = $session->channel($channel)?->source;
        $onsets = [];
        foreach ($source instanceof NoteSource ? NoteSchedule::of($source->notes, new Ticks($session->tempo, $session->sampleRate))->events : [] as $event) {
            if ($event->isOn()) {
                $onsets[$event->at] = $event;
            }
        }

        return array_values($onsets);
    }

    /**
     * Where a selector stands: from each note on it glides to its place.
     *
     * @param  float  $still  where it stands before the first
     * @param  list<NoteEvent>  $onsets
     * @return list<AutomationPoint>
     */
    private static function places(float $still, SelectorNotes $notes, array $onsets, int $sampleRate): array
    {
        $points = [];
        $from = $to = $still;
        $start = $end = PHP_INT_MIN;
        $glide = max(1, (int) round($notes->glide / 1000.0 * $sampleRate));
        foreach ($onsets as $onset) {
            if ($onset->at < $end) {
                // The glide before is not over yet: it ends here, on its way.
                array_pop($points);
                $to = $from + ($to - $from) * ($onset->at - $start) / $glide;
            }
            [$from, $to] = [$to, $notes->place($onset->key, (int) round($onset->value * 127.0))];
            [$start, $end] = [$onset->at, $onset->at + $glide];
            array_push($points, new AutomationPoint($start, $from), new AutomationPoint($end, $to));
        }

        return $points;
    }

    /**
     * The places of the sounds that are chosen; before the first note it is the one of the switch.
     *
     * @param  list<NoteEvent>  $onsets
     * @return list<AutomationPoint>
     */
    private static function chosen(SoundSwitch $switch, SoundNotes $notes, array $onsets): array
    {
        $points = [];
        foreach ($onsets as $onset) {
            $place = $notes->place($onset->key, count($switch->sounds));
            if ($place !== null) {
                $points[] = new AutomationPoint($onset->at, (float) $place);
            }
        }
        $first = $switch->chosen === null ? null : $switch->placeOf($switch->chosen);

        return $points === [] || $points[0]->at <= 0 || $first === null ? $points : [new AutomationPoint(0, (float) $first), ...$points];
    }
}
