<?php

declare(strict_types=1);

namespace Hafen\Note;

/**
 * The keys somebody holds on a note channel just now, as a state: what is not in it any more is let go, so that none stays down.
 */
final readonly class HeldKeys
{
    public const MOST = 32;

    /**
     * @param  string  $channel  id of the note channel
     * @param  array<int, array{int, int}>  $keys  by key: velocity from 1 to 127, and a number that is higher each time a key is pressed
     */
    public function __construct(public string $channel, public array $keys = [])
    {
    }

    /** @return array<int, array{int, int}> those that are held on a channel */
    public function on(string $channel): array
    {
        return $channel === $this->channel ? $this->keys : [];
    }

    /** @return ?array{int, int} key and velocity of the one that was pressed last; null where none is held */
    public function latest(): ?array
    {
        $latest = null;
        foreach ($this->keys as $key => [$velocity, $number]) {
            $latest = $latest === null || $number > $latest[2] ? [$key, $velocity, $number] : $latest;
        }

        return $latest === null ? null : [$latest[0], $latest[1]];
    }

    /**
     * What happens from one state of the keys to the next.
     *
     * @param  array<int, array{int, int}>  $before
     * @param  array<int, array{int, int}>  $now
     * @return list<NoteEvent>
     */
    public static function between(array $before, array $now): array
    {
        $events = [];
        foreach ($before as $key => $pressed) {
            if (($now[$key] ?? null) !== $pressed) {
                $events[] = new NoteEvent(0, NoteEventKind::Off, $key);
            }
        }
        foreach ($now as $key => $pressed) {
            if (($before[$key] ?? null) !== $pressed) {
                $events[] = new NoteEvent(0, NoteEventKind::On, $key, $pressed[0] / 127.0);
            }
        }

        return NoteEvent::sorted($events);
    }
}
