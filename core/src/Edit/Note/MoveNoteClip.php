<?php

declare(strict_types=1);

namespace Hafen\Edit\Note;

use Hafen\Edit\Channels;
use Hafen\Edit\Edit;
use Hafen\Note\NoteClip;
use Hafen\Session\Session;

/** Where a clip of notes begins, and how long it is, in ticks. */
final readonly class MoveNoteClip implements Edit
{
    public function __construct(public string $channel, public string $clip, public int $start, public int $length)
    {
    }

    public function apply(Session $session): Session
    {
        return NoteClips::change($session, $this->channel, $this->clip, fn (NoteClip $clip): NoteClip => $clip->withStart($this->start)->withLength($this->length));
    }

    public function label(Session $before): string
    {
        return 'Move notes of '.Channels::named($before, [$this->channel]);
    }

    public function touches(Session $before): array
    {
        return ["channels/{$this->channel}/source/{$this->clip}", 'tempo'];
    }
}
