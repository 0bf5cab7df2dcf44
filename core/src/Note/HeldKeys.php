<?php

declare(strict_types=1);

namespace Hafen\Note;

/**
 * The keys somebody holds on a note channel just now, and where controllers stand: a state, so that what is not in it any more is let go
 * and nothing stays down.
 */
final readonly class HeldKeys
{
    public const MOST = 32;

    /**
     * @param  string  $channel  id of the note channel
     * @param  array<int, array{int, int}>  $keys  by key: velocity from 1 to 127, and a number that is higher each time a key is pressed
     * @param  array<int, int>  $controls  values of controllers and of the pitch wheel by number, see {@see NoteControl}
     */
    public function __construct(public string $channel, public array $keys = [], public array $controls = [])
    {
    }

    /** What of it is played on a channel; null is nothing. */
    public function on(string $channel): ?self
    {
        return $channel === $this->channel ? $this : null;
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
     * What happens from one state to the next; a controller that is not in it any more goes back where it rests.
     *
     * @return list<NoteEvent>
     */
    public static function between(?self $before, ?self $now): array
    {
        $events = [];
        foreach ($before->keys ?? [] as $key => $pressed) {
            if (($now->keys[$key] ?? null) !== $pressed) {
                $events[] = new NoteEvent(0, NoteEventKind::Off, $key);
            }
        }
        foreach (array_keys(($now->controls ?? []) + ($before->controls ?? [])) as $controller) {
            $value = $now->controls[$controller] ?? NoteControl::rest($controller);
            if (($before->controls[$controller] ?? NoteControl::rest($controller)) !== $value) {
                $events[] = new NoteEvent(0, NoteEventKind::Control, $controller, (float) $value);
            }
        }
        foreach ($now->keys ?? [] as $key => $pressed) {
            if (($before->keys[$key] ?? null) !== $pressed) {
                $events[] = new NoteEvent(0, NoteEventKind::On, $key, $pressed[0] / 127.0);
            }
        }

        return NoteEvent::sorted($events);
    }
}
