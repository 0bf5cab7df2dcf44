<?php

declare(strict_types=1);

namespace Hafen\Edit\Channel;

use Hafen\Edit\Edit;
use Hafen\Edit\Note\NoteClips;
use Hafen\Session\Channel\ChannelKind;
use Hafen\Session\Session;

/** Sets the tempo in beats per minute: notes and times in note values follow it, and the session grows to hold the notes. */
final readonly class SetTempo implements Edit
{
    public function __construct(public float $tempo)
    {
    }

    public function apply(Session $session): Session
    {
        $session = $session->withTempo($this->tempo);
        foreach ($session->channels as $channel) {
            $session = $channel->kind === ChannelKind::Note ? NoteClips::grown($session, $channel->id) : $session;
        }

        return $session;
    }

    public function label(Session $before): string
    {
        return 'Tempo '.round($this->tempo, 1).' BPM';
    }

    public function touches(Session $before): array
    {
        return ['tempo'];
    }
}
