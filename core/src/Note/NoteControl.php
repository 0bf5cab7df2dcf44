<?php

declare(strict_types=1);

namespace Hafen\Note;

/** A movement of a controller in a clip, or of its pitch wheel. */
final readonly class NoteControl
{
    /** Number of the sustain pedal. */
    public const SUSTAIN = 64;

    /** Number under which the pitch wheel goes here; MIDI has numbers up to 127. */
    public const BEND = 128;

    /**
     * @param  int  $at  ticks after the start of the clip
     * @param  int  $controller  0 to 127, or {@see BEND}
     * @param  int  $value  0 to 127; of the pitch wheel -8192 to 8191
     */
    public function __construct(public int $at, public int $controller, public int $value)
    {
    }
}
