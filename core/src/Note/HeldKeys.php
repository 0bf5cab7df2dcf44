<?php

declare(strict_types=1);

namespace Hafen\Note;

/**
 * The keys somebody holds just now, as a state: what is not in it any more is let go, so that none stays down.
 */
final readonly class HeldKeys
{
    public const MOST = 32;

    /** @param  array<int, array{int, int}>  $keys  by key: velocity from 1 to 127, and a number that differs each time it is pressed */
    public function __construct(public array $keys = [])
    {
    }

    /**
     * What happens from one state to the next.
     *
     * @return list<NoteEvent>
     */
    public function since(self $before): array
    {
        $events = [];
        foreach ($before->keys as $key => $pressed) {
            if (($this->keys[$key] ?? null) !== $pressed) {
                $events[] = new NoteEvent(0, NoteEventKind::Off, $key);
            }
        }
        foreach ($this->keys as $key => $pressed) {
            if (($before->keys[$key] ?? null) !== $pressed) {
                $events[] = new NoteEvent(0, NoteEventKind::On, $key, $pressed[0] / 127.0);
            }
        }

        return NoteEvent::sorted($events);
    }
}
