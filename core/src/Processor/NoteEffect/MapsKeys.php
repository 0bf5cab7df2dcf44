<?php

declare(strict_types=1);

namespace Hafen\Processor\NoteEffect;

use Hafen\Note\NoteEvent;
use Hafen\Note\NoteEventKind;

/** For note effects that make each note into others at once: what a key started ends with it, whatever the setting is by then. */
trait MapsKeys
{
    use WorksOnNotes;

    /** @var array<int, list<int>> keys that sound, by the key that was pressed */
    private array $sounding = [];

    public function reset(): void
    {
        $this->sounding = [];
        $this->planned = [];
    }

    public function isSettled(): bool
    {
        return true;
    }

    public function changed(array $events, int $frames): array
    {
        $changed = [];
        foreach ($events as $event) {
            match ($event->kind) {
                NoteEventKind::On => array_push($changed, ...$this->started($event)),
                NoteEventKind::Off => array_push($changed, ...$this->ended($event)),
                NoteEventKind::AllOff => [$this->sounding = [], $changed[] = $event],
                NoteEventKind::Control => $changed[] = $event,
            };
        }
        $this->position += $frames;

        return NoteEvent::sorted($changed);
    }

    /**
     * The keys and velocities a note becomes.
     *
     * @return list<array{int, float}> key from 0 to 127, velocity from 0 to 1
     */
    abstract private function made(int $key, float $velocity): array;

    /** @return list<NoteEvent> */
    private function started(NoteEvent $event): array
    {
        $on = [];
        $keys = [];
        foreach ($this->made($event->key, $event->value) as [$key, $velocity]) {
            if ($key >= 0 && $key <= 127 && ! in_array($key, $keys, true)) {
                $keys[] = $key;
                $on[] = new NoteEvent($event->at, NoteEventKind::On, $key, max(1.0 / 127.0, min(1.0, $velocity)));
            }
        }
        $ended = isset($this->sounding[$event->key]) ? $this->ended($event) : [];
        $this->sounding[$event->key] = $keys;

        return [...$ended, ...$on];
    }

    /** @return list<NoteEvent> */
    private function ended(NoteEvent $event): array
    {
        $keys = $this->sounding[$event->key] ?? [];
        unset($this->sounding[$event->key]);

        return array_map(static fn (int $key): NoteEvent => new NoteEvent($event->at, NoteEventKind::Off, $key), $keys);
    }
}
