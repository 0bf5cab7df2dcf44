<?php

declare(strict_types=1);

namespace Hafen\Edit\Channel;

use Hafen\Edit\Edit;
use Hafen\Session\Session;

/** Sets the tempo in beats per minute: times in note values follow it. */
final readonly class SetTempo implements Edit
{
    public function __construct(public float $tempo)
    {
    }

    public function apply(Session $session): Session
    {
        return $session->withTempo($this->tempo);
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
