<?php

declare(strict_types=1);

namespace Hafen\Edit\Note;

use Hafen\Edit\Channels;
use Hafen\Edit\Edit;
use Hafen\Note\Note;
use Hafen\Note\NoteClip;
use Hafen\Session\Session;

/** Moves the beginnings of notes towards the nearest step of a grid: a strength of 1 puts them there. Null is all notes of the clip. */
final readonly class QuantiseNotes implements Edit
{
    /** @param  ?list<int>  $notes  places in the clip */
    public function __construct(public string $channel, public string $clip, public ?array $notes, public int $grid, public float $strength)
    {
    }

    public function apply(Session $session): Session
    {
        return NoteClips::change($session, $this->channel, $this->clip, fn (NoteClip $clip): NoteClip => $clip->withNotes(array_map(
            fn (Note $note, int $place): Note => $this->notes === null || in_array($place, $this->notes, true) ? $this->moved($note) : $note,
            $clip->notes,
            array_keys($clip->notes),
        )));
    }

    private function moved(Note $note): Note
    {
        $step = (int) round($note->at / $this->grid) * $this->grid;

        return new Note((int) round($note->at + $this->strength * ($step - $note->at)), $note->length, $note->key, $note->velocity);
    }

    public function label(Session $before): string
    {
        return 'Quantise notes of '.Channels::named($before, [$this->channel]);
    }

    public function touches(Session $before): array
    {
        return ["channels/{$this->channel}/source/{$this->clip}"];
    }
}
