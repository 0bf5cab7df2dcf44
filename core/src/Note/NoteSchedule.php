<?php

declare(strict_types=1);

namespace Hafen\Note;

/** The notes of a channel as they happen, sample by sample of the session. */
final readonly class NoteSchedule
{
    /** @param  list<NoteEvent>  $events  in their order */
    private function __construct(public array $events)
    {
    }

    /**
     * Where clips overlap, or notes of the same key, the next one ends the one before: a key is down or it is not.
     *
     * @param  list<NoteClip>  $clips
     */
    public static function of(array $clips, Ticks $ticks): self
    {
        $spans = $events = [];
        foreach ($clips as $clip) {
            foreach ($clip->notes as $note) {
                if ($note->at < $clip->length) {
                    $spans[$note->key][] = [$clip->start + $note->at, min($clip->end(), $clip->start + $note->end()), $note->velocity];
                }
            }
            foreach ($clip->controls as $control) {
                if ($control->at < $clip->length) {
                    $events[] = new NoteEvent($ticks->sample($clip->start + $control->at), NoteEventKind::Control, $control->controller, (float) $control->value);
                }
            }
        }
        foreach ($spans as $key => $ofKey) {
            usort($ofKey, static fn (array $one, array $other): int => $one[0] <=> $other[0]);
            foreach ($ofKey as $i => [$from, $to, $velocity]) {
                $next = $ofKey[$i + 1][0] ?? PHP_INT_MAX;
                if ($next === $from) {
                    continue;
                }
                $start = $ticks->sample($from);
                $events[] = new NoteEvent($start, NoteEventKind::On, $key, $velocity / 127.0);
                $events[] = new NoteEvent(max($start + 1, $ticks->sample(min($to, $next))), NoteEventKind::Off, $key);
            }
        }

        return new self(NoteEvent::sorted($events));
    }

    /** Sample after the last event. */
    public function end(): int
    {
        return $this->events === [] ? 0 : $this->events[count($this->events) - 1]->at + 1;
    }

    /**
     * What happens in a range, counted from its start.
     *
     * @return list<NoteEvent>
     */
    public function between(int $position, int $frames): array
    {
        $events = [];
        for ($i = $this->firstAt($position), $n = count($this->events); $i < $n && $this->events[$i]->at < $position + $frames; ++$i) {
            $events[] = $this->events[$i]->at($this->events[$i]->at - $position);
        }

        return $events;
    }

    /**
     * Where the controllers stand before a sample: those that were moved until then.
     *
     * @return array<int, float> by number
     */
    public function controlsBefore(int $position): array
    {
        $controls = [];
        for ($i = 0, $n = $this->firstAt($position); $i < $n; ++$i) {
            if ($this->events[$i]->kind === NoteEventKind::Control) {
                $controls[$this->events[$i]->key] = $this->events[$i]->value;
            }
        }

        return $controls;
    }

    /**
     * @return array{array<int, float>, int} velocity from 0 to 1 of the keys that are down just before a sample, by key; and for how many samples
     *                                       keys have been down there without a gap
     */
    public function downBefore(int $position): array
    {
        $down = [];
        $since = $position;
        for ($i = 0, $n = $this->firstAt($position); $i < $n; ++$i) {
            $event = $this->events[$i];
            if ($event->isOn()) {
                $since = $down === [] ? $event->at : $since;
                $down[$event->key] = $event->value;
            } elseif ($event->isOff()) {
                unset($down[$event->key]);
            }
        }

        return [$down, $down === [] ? 0 : $position - $since];
    }

    /** How long the longest note sounds in samples, held by its key and then by the pedal. */
    public function longest(): int
    {
        $longest = 0;
        $since = $pedalled = [];
        $isPedalDown = false;
        foreach ($this->events as $event) {
            if ($event->isOn()) {
                $since[$event->key] = $event->at;
                unset($pedalled[$event->key]);
            } elseif ($event->isOff()) {
                $longest = max($longest, $event->at - ($since[$event->key] ?? $event->at));
                $pedalled += $isPedalDown ? [$event->key => $since[$event->key] ?? $event->at] : [];
            } elseif ($event->key === NoteControl::SUSTAIN) {
                $isPedalDown = $event->value >= 64.0;
                foreach ($isPedalDown ? [] : $pedalled as $at) {
                    $longest = max($longest, $event->at - $at);
                }
                $pedalled = $isPedalDown ? $pedalled : [];
            }
        }

        return $longest;
    }

    /** Index of the first event at or after a sample. */
    private function firstAt(int $position): int
    {
        $low = 0;
        $high = count($this->events);
        while ($low < $high) {
            $middle = intdiv($low + $high, 2);
            if ($this->events[$middle]->at < $position) {
                $low = $middle + 1;
            } else {
                $high = $middle;
            }
        }

        return $low;
    }
}
