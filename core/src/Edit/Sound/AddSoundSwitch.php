<?php

declare(strict_types=1);

namespace Hafen\Edit\Sound;

use Hafen\Edit\Channels;
use Hafen\Edit\Edit;
use Hafen\Edit\Refusals\TooManySounds;
use Hafen\Session\FreshIds;
use Hafen\Session\Session;
use Hafen\Session\Sound\Sound;
use Hafen\Session\Sound\SoundControls;
use Hafen\Session\Sound\SoundSwitch;

/** A new sound switch of a channel, whose first sound is how its rows stand. */
final readonly class AddSoundSwitch implements Edit
{
    public function __construct(public string $channel, public string $name, public string $sound, private SoundControls $controls)
    {
    }

    public function apply(Session $session): Session
    {
        $channel = Channels::find($session, $this->channel);
        if (count($channel->sounds) >= SoundSwitch::MOST) {
            throw TooManySounds::switchesOn($channel->name, SoundSwitch::MOST);
        }
        $ids = FreshIds::of($session);
        $sound = new Sound($ids->sound(), $this->sound, $this->controls->standing($channel));

        return $session->withChannel($channel->withSounds([...$channel->sounds, new SoundSwitch($ids->soundSwitch(), $this->name, [$sound], $sound->id)]));
    }

    public function label(Session $before): string
    {
        return "Sound switch {$this->name} on ".Channels::named($before, [$this->channel]);
    }

    public function touches(Session $before): array
    {
        return ["channels/{$this->channel}/sounds", ...Sounds::rows($before->channel($this->channel))];
    }
}
