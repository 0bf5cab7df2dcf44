<?php

declare(strict_types=1);

namespace Hafen\Engine;

use Hafen\Note\HeldKeys;
use Hafen\Note\NoteClip;
use Hafen\Note\NoteEvent;
use Hafen\Note\NoteEventKind;
use Hafen\Note\NoteSchedule;
use Hafen\Note\Ticks;

/**
 * Plays the notes of a channel to the sample. Where it begins, and after a jump, notes that were begun before sound from there. No note stays
 * down: a jump ends all that sounded, and an edit those it does not hold any more.
 */
final class NotePlayer
{
    private NoteSchedule $schedule;

    /** Where the next block is expected; null before the first. */
    private ?int $next = null;

    /** @var array<int, true> keys that are down */
    private array $down = [];

    private bool $isChanged = false;

    private ?int $longest = null;

    /** @var ?array{list<NoteClip>, float} */
    private ?array $set = null;

    private ?HeldKeys $held = null;

    /** What of them was given out. */
    private ?HeldKeys $sounding = null;

    public function __construct(private readonly int $sampleRate)
    {
        $this->schedule = NoteSchedule::of([], new Ticks(120.0, $sampleRate));
    }

    /** @param  list<NoteClip>  $clips */
    public function set(array $clips, float $tempo): void
    {
        if ($this->set === [$clips, $tempo]) {
            return;
        }
        $this->set = [$clips, $tempo];
        $this->schedule = NoteSchedule::of($clips, new Ticks($tempo, $this->sampleRate));
        $this->isChanged = true;
        $this->longest = null;
    }

    /** What somebody plays on keys besides, from the next block on; null is nothing. */
    public function hold(?HeldKeys $held): void
    {
        $this->held = $held;
    }

    /** @return list<NoteEvent> of a block of the session, counted from its start */
    public function read(int $position, int $frames): array
    {
        $events = [];
        if ($position !== $this->next) {
            $events = $this->begun($position);
        } elseif ($this->isChanged) {
            [$still] = $this->schedule->downBefore($position);
            foreach (array_keys(array_diff_key($this->down, $still)) as $key) {
                $events[] = new NoteEvent(0, NoteEventKind::Off, $key);
                unset($this->down[$key]);
            }
        }
        array_push($events, ...$this->played());
        $this->isChanged = false;
        $this->next = $position + $frames;
        foreach ($this->schedule->between($position, $frames) as $event) {
            if ($event->isOn()) {
                $this->down[$event->key] = true;
            } elseif ($event->isOff()) {
                if (! isset($this->down[$event->key])) {
                    continue;
                }
                unset($this->down[$event->key]);
            }
            $events[] = $event;
        }

        return $events;
    }

    /**
     * All ends, controllers go where they stand, and what was begun before begins here.
     *
     * @return list<NoteEvent>
     */
    private function begun(int $position): array
    {
        [$down, $heldFor] = $this->schedule->downBefore($position);
        $events = [NoteEvent::allOff(0, $heldFor)];
        foreach ($this->schedule->controlsBefore($position) as $controller => $value) {
            $events[] = new NoteEvent(0, NoteEventKind::Control, $controller, $value);
        }
        // Keys that are held all the while sound again as well.
        $this->down = [];
        $this->sounding = null;
        foreach ($down as $key => $velocity) {
            $events[] = new NoteEvent(0, NoteEventKind::On, $key, $velocity);
            $this->down[$key] = true;
        }

        return $events;
    }

    /** Samples by which playing has to begin before a place for all to sound there as it does from the start: the longest note. */
    public function longest(): int
    {
        return $this->longest ??= $this->schedule->longest();
    }

    /** @return list<NoteEvent> what was played on keys since the last block */
    private function played(): array
    {
        $events = $this->held == $this->sounding ? [] : HeldKeys::between($this->sounding, $this->held);
        $this->sounding = $this->held;

        return $events;
    }
}
