<?php

declare(strict_types=1);

namespace Hafen\Edit\Note;

use Hafen\Edit\Channels;
use Hafen\Edit\Edit;
use Hafen\Note\NoteClip;
use Hafen\Session\Session;

/** A clip of notes on a note channel; one of the same id is replaced. */
final readonly class PutNoteClip implements Edit
{
    public function __construct(public string $channel, public NoteClip $clip)
    {
    }

    public function apply(Session $session): Session
    {
        [$channel, $source] = NoteClips::source($session, $this->channel);

        return NoteClips::grown($session->withChannel($channel->withSource($source->withAdded($this->clip))), $this->channel);
    }

    public function label(Session $before): string
    {
        return 'Notes on '.Channels::named($before, [$this->channel]);
    }

    public function touches(Session $before): array
    {
        return ["channels/{$this->channel}/source", 'tempo'];
    }
}
