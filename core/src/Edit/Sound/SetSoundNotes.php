<?php

declare(strict_types=1);

namespace Hafen\Edit\Sound;

use Hafen\Edit\Edit;
use Hafen\Edit\Note\NoteClips;
use Hafen\Session\Session;
use Hafen\Session\Sound\SoundNotes;
use Hafen\Session\Sound\SoundSwitch;

/** The keys of a note channel that choose the sounds of a switch; null is none. */
final readonly class SetSoundNotes implements Edit
{
    public function __construct(public string $switch, public ?SoundNotes $notes)
    {
    }

    public function apply(Session $session): Session
    {
        if ($this->notes !== null) {
            NoteClips::source($session, $this->notes->channel);
        }

        return Sounds::change($session, $this->switch, fn (SoundSwitch $switch): SoundSwitch => $switch->withNotes($this->notes));
    }

    public function label(Session $before): string
    {
        return 'Keys of '.Sounds::named($before, $this->switch);
    }

    public function touches(Session $before): array
    {
        return ["sounds/{$this->switch}/notes", ...($this->notes === null ? [] : ["channels/{$this->notes->channel}/feeds/{$this->switch}"])];
    }
}
