<?php

declare(strict_types=1);

namespace Hafen\Edit\Note;

use Hafen\Edit\Channels;
use Hafen\Edit\Edit;
use Hafen\Note\Note;
use Hafen\Note\NoteClip;
use Hafen\Session\Session;

/** All notes of a clip. */
final readonly class SetNotes implements Edit
{
    /** @param  list<Note>  $notes */
    public function __construct(public string $channel, public string $clip, public array $notes)
    {
    }

    public function apply(Session $session): Session
    {
        return NoteClips::change($session, $this->channel, $this->clip, fn (NoteClip $clip): NoteClip => $clip->withNotes($this->notes));
    }

    public function label(Session $before): string
    {
        return 'Notes of '.Channels::named($before, [$this->channel]);
    }

    public function touches(Session $before): array
    {
        return ["channels/{$this->channel}/source/{$this->clip}"];
    }
}
