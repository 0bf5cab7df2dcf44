<?php

declare(strict_types=1);

namespace Hafen\Edit\Note;

use Hafen\Edit\Channels;
use Hafen\Edit\Edit;
use Hafen\Note\Note;
use Hafen\Note\NoteClip;
use Hafen\Session\Session;

/** Moves notes by semitones; those that would leave the keys there are stay at the last one. Null is all notes of the clip. */
final readonly class TransposeNotes implements Edit
{
    /** @param  ?list<int>  $notes  places in the clip */
    public function __construct(public string $channel, public string $clip, public ?array $notes, public int $by)
    {
    }

    public function apply(Session $session): Session
    {
        return NoteClips::change($session, $this->channel, $this->clip, fn (NoteClip $clip): NoteClip => $clip->withNotes(array_map(
            fn (Note $note, int $place): Note => $this->notes === null || in_array($place, $this->notes, true)
                ? new Note($note->at, $note->length, max(0, min(127, $note->key + $this->by)), $note->velocity)
                : $note,
            $clip->notes,
            array_keys($clip->notes),
        )));
    }

    public function label(Session $before): string
    {
        return 'Transpose notes of '.Channels::named($before, [$this->channel]);
    }

    public function touches(Session $before): array
    {
        return ["channels/{$this->channel}/source/{$this->clip}"];
    }
}
