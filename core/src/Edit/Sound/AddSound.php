<?php

declare(strict_types=1);

namespace Hafen\Edit\Sound;

use Hafen\Edit\Edit;
use Hafen\Edit\Refusals\TooManySounds;
use Hafen\Session\FreshIds;
use Hafen\Session\Session;
use Hafen\Session\Sound\Sound;
use Hafen\Session\Sound\SoundControls;
use Hafen\Session\Sound\SoundSwitch;

/** A new sound of a switch, from how the rows of its channel stand; it is the chosen one. */
final readonly class AddSound implements Edit
{
    public function __construct(public string $switch, public string $name, private SoundControls $controls)
    {
    }

    public function apply(Session $session): Session
    {
        $location = Sounds::find($session, $this->switch);
        if (count($location->switch->sounds) >= SoundSwitch::MOST_SOUNDS) {
            throw TooManySounds::of($location->switch->name, SoundSwitch::MOST_SOUNDS);
        }
        $sound = new Sound(FreshIds::of($session)->sound(), $this->name, $this->controls->standing($location->channel));

        return $session->withChannel($location->channel->withSoundSwitch($location->switch->withSounds([...$location->switch->sounds, $sound])->withChosen($sound->id)));
    }

    public function label(Session $before): string
    {
        return "Sound {$this->name} of ".Sounds::named($before, $this->switch);
    }

    public function touches(Session $before): array
    {
        return ["sounds/{$this->switch}", ...Sounds::rows($before->soundSwitch($this->switch)?->channel)];
    }
}
