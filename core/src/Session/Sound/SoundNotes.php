<?php

declare(strict_types=1);

namespace Hafen\Session\Sound;

/** Notes that choose sounds: the lowest key chooses the first, the next one the second, and so on. Other keys choose nothing. */
final readonly class SoundNotes
{
    /** @param  string  $channel  id of the note channel */
    public function __construct(public string $channel, public int $lowest = 24)
    {
    }

    /** The place among so many sounds that a key chooses; null where it chooses none. */
    public function place(int $key, int $sounds): ?int
    {
        $place = $key - $this->lowest;

        return $place >= 0 && $place < $sounds ? $place : null;
    }
}
