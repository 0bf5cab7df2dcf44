<?php

declare(strict_types=1);

namespace Hafen\Note;

/** One note: when it begins and how long it is held, in ticks of its clip; key and velocity as MIDI counts them. */
final readonly class Note
{
    /**
     * @param  int  $at  ticks after the start of the clip
     * @param  int  $length  ticks, 1 at least
     * @param  int  $key  0 to 127; 60 is C4, 69 is A4 with 440 Hz
     * @param  int  $velocity  1 to 127
     */
    public function __construct(public int $at, public int $length, public int $key, public int $velocity = 96)
    {
    }

    public function end(): int
    {
        return $this->at + $this->length;
    }

    /** The frequency of a key in Hz. Source: equal temperament, 440 Hz * 2^((key - 69) / 12). */
    public static function frequency(float $key): float
    {
        return 440.0 * 2.0 ** (($key - 69.0) / 12.0);
    }
}
