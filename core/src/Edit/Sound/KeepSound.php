<?php

declare(strict_types=1);

namespace Hafen\Edit\Sound;

use Hafen\Edit\Edit;
use Hafen\Session\Session;
use Hafen\Session\Sound\SoundControls;

/** Makes a sound anew from how the rows of its channel stand; it is the chosen one. */
final readonly class KeepSound implements Edit
{
    public function __construct(public string $switch, public string $sound, private SoundControls $controls)
    {
    }

    public function apply(Session $session): Session
    {
        $location = Sounds::find($session, $this->switch);
        $sound = Sounds::sound($location->switch, $this->sound)->withValues($this->controls->standing($location->channel));

        return $session->withChannel($location->channel->withSoundSwitch($location->switch->withSound($sound)->withChosen($sound->id)));
    }

    public function label(Session $before): string
    {
        return 'Keep as '.Sounds::named($before, $this->switch, $this->sound);
    }

    public function touches(Session $before): array
    {
        return ["sounds/{$this->switch}", ...Sounds::rows($before->soundSwitch($this->switch)?->channel)];
    }
}
