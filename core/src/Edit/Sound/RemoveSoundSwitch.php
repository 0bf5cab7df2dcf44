<?php

declare(strict_types=1);

namespace Hafen\Edit\Sound;

use Hafen\Edit\Edit;
use Hafen\Session\Session;
use Hafen\Session\Sound\SoundSwitch;

/** Takes a sound switch away; all stays as it stands. */
final readonly class RemoveSoundSwitch implements Edit
{
    public function __construct(public string $switch)
    {
    }

    public function apply(Session $session): Session
    {
        $channel = Sounds::find($session, $this->switch)->channel;

        return $session->withChannel($channel->withSounds(array_values(array_filter($channel->sounds, fn (SoundSwitch $switch): bool => $switch->id !== $this->switch))));
    }

    public function label(Session $before): string
    {
        return 'Remove '.Sounds::named($before, $this->switch);
    }

    public function touches(Session $before): array
    {
        $location = $before->soundSwitch($this->switch);

        return $location === null ? [] : [
            "sounds/{$this->switch}", "channels/{$location->channel->id}/sounds", "channels/{$location->channel->id}/automation/sound:{$this->switch}", ...Sounds::paths($location->switch),
        ];
    }
}
