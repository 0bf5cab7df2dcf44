<?php

declare(strict_types=1);

namespace Hafen\Edit\Note;

use Hafen\Edit\Channels;
use Hafen\Edit\Edit;
use Hafen\Edit\Refusals\NoSuchNoteClip;
use Hafen\Note\NoteClip;
use Hafen\Session\Session;
use Hafen\Session\Source\NoteSource;

/** Takes a clip of notes away. */
final readonly class RemoveNoteClip implements Edit
{
    public function __construct(public string $channel, public string $clip)
    {
    }

    public function apply(Session $session): Session
    {
        [$channel, $source] = NoteClips::source($session, $this->channel);
        if ($source->clip($this->clip) === null) {
            throw NoSuchNoteClip::withId($this->clip);
        }

        return $session->withChannel($channel->withSource(new NoteSource(array_values(array_filter($source->notes, fn (NoteClip $clip): bool => $clip->id !== $this->clip)))));
    }

    public function label(Session $before): string
    {
        return 'Remove notes of '.Channels::named($before, [$this->channel]);
    }

    public function touches(Session $before): array
    {
        return ["channels/{$this->channel}/source"];
    }
}
