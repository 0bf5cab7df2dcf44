<?php

declare(strict_types=1);

namespace Hafen\Edit\Sound;

use Hafen\Edit\Edit;
use Hafen\Session\Session;
use Hafen\Session\Sound\SoundControls;

/** Chooses a sound: what differs between the sounds of its switch goes where this one has it. */
final readonly class ChooseSound implements Edit
{
    public function __construct(public string $switch, public string $sound, private SoundControls $controls)
    {
    }

    public function apply(Session $session): Session
    {
        $location = Sounds::find($session, $this->switch);

        return $this->controls->chosen($session, $location->channel, $location->switch, Sounds::sound($location->switch, $this->sound));
    }

    public function label(Session $before): string
    {
        return Sounds::named($before, $this->switch, $this->sound);
    }

    public function touches(Session $before): array
    {
        return ["sounds/{$this->switch}/chosen", ...Sounds::paths($before->soundSwitch($this->switch)?->switch)];
    }
}
