<?php

declare(strict_types=1);

namespace Hafen\Note;

/** The notes of one track of a MIDI file, or of one of its channels where a track has several. */
final readonly class MidiPart
{
    /**
     * @param  list<Note>  $notes
     * @param  list<NoteControl>  $controls
     */
    public function __construct(public string $name, public array $notes, public array $controls = [])
    {
    }

    /** A clip from a tick on that holds all of it, up to the end of a bar of four. */
    public function clip(string $id, int $start = 0): NoteClip
    {
        $end = array_reduce($this->notes, static fn (int $end, Note $note): int => max($end, $note->end()), 1);
        $end = array_reduce($this->controls, static fn (int $end, NoteControl $control): int => max($end, $control->at + 1), $end);
        $bar = 4 * Ticks::PER_BEAT;

        return (new NoteClip($id, $start, (int) ceil($end / $bar) * $bar, [], $this->controls))->withNotes($this->notes);
    }
}
