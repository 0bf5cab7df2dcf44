<?php

declare(strict_types=1);

namespace Hafen\Edit\Note;

use Hafen\Edit\Channels;
use Hafen\Edit\Edit;
use Hafen\Note\NoteClip;
use Hafen\Note\NoteControl;
use Hafen\Session\Session;

/** All movements of one controller of a clip, or of its pitch wheel; others stay. */
final readonly class SetNoteControls implements Edit
{
    /**
     * @param  int  $controller  its number, see {@see NoteControl}
     * @param  list<NoteControl>  $controls  of that number, in any order
     */
    public function __construct(public string $channel, public string $clip, public int $controller, public array $controls)
    {
    }

    public function apply(Session $session): Session
    {
        return NoteClips::change($session, $this->channel, $this->clip, fn (NoteClip $clip): NoteClip => $clip->withControls($this->controller, $this->controls));
    }

    public function label(Session $before): string
    {
        return NoteControl::name($this->controller).' of '.Channels::named($before, [$this->channel]);
    }

    public function touches(Session $before): array
    {
        return ["channels/{$this->channel}/source/{$this->clip}"];
    }
}
