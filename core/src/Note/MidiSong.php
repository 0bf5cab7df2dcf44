<?php

declare(strict_types=1);

namespace Hafen\Note;

/** What a MIDI file holds: a tempo in BPM, null where it says none, and parts with a name and notes in {@see Ticks}. */
final readonly class MidiSong
{
    /**
     * @param  list<MidiPart>  $parts
     * @param  bool  $changesTempo  whether the tempo changes on the way, which sessions do not
     */
    public function __construct(public array $parts, public ?float $tempo = null, public bool $changesTempo = false)
    {
    }
}
