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
 * Plays the notes of a channel to the sample. No note stays down: a jump ends all of them, and an edit those it does not hold any more.
 */
final class NotePlayer
{
    private NoteSchedule $schedule;

    /** Where the next block is expected; null before the first. */
    private ?int $next = null;

    /** @var array<int, true> keys that are down */
    private array $down = [];

    private bool $isChanged = false;

    /** @var ?array{list<NoteClip>, float} */
    private ?array $set = null;

    private HeldKeys $held;

    private HeldKeys $heldBefore;

    public function __construct(private readonly int $sampleRate)
    {
        $this->schedule = NoteSchedule::of([], new Ticks(120.0, $sampleRate));
        $this->held = $this->heldBefore = new HeldKeys;
    }

    /**
     * @param  list<NoteClip>  $clips
     * @param  ?HeldKeys  $held  what somebody plays besides
     */
    public function set(array $clips, float $tempo, ?HeldKeys $held = null): void
    {
        $this->held = $held ?? new HeldKeys;
        if ($this->set === [$clips, $tempo]) {
            return;
        }
        $this->set = [$clips, $tempo];
        $this->schedule = NoteSchedule::of($clips, new Ticks($tempo, $this->sampleRate));
        $this->isChanged = true;
    }

    /** @return list<NoteEvent> of a block of the session, counted from its start */
    public function read(int $position, int $frames): array
    {
        $events = [];
        if ($position !== $this->next) {
            $events[] = NoteEvent::allOff();
            $this->down = [];
            foreach ($this->schedule->controlsBefore($position) as $controller => $value) {
                $events[] = new NoteEvent(0, NoteEventKind::Control, $controller, $value);
            }
        } elseif ($this->isChanged) {
            foreach (array_keys($this->down) as $key) {
                if (! $this->schedule->isDown($key, $position)) {
                    $events[] = new NoteEvent(0, NoteEventKind::Off, $key);
                    unset($this->down[$key]);
                }
            }
        }
        array_push($events, ...$this->played());
        $this->isChanged = false;
        $this->next = $position + $frames;
        foreach ($this->schedule->between($position, $frames) as $event) {
            if ($event->isOn()) {
                $this->down[$event->key] = true;
            } elseif ($event->isOff()) {
                // One that began before a jump was ended there.
                if (! isset($this->down[$event->key])) {
                    continue;
                }
                unset($this->down[$event->key]);
            }
            $events[] = $event;
        }

        return $events;
    }

    /** @return list<NoteEvent> what was played on keys since the last block */
    private function played(): array
    {
        $events = $this->held === $this->heldBefore ? [] : $this->held->since($this->heldBefore);
        $this->heldBefore = $this->held;

        return $events;
    }
}
