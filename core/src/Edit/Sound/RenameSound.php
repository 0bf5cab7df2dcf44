<?php

declare(strict_types=1);

namespace Hafen\Edit\Sound;

use Hafen\Edit\Edit;
use Hafen\Session\Session;

final readonly class RenameSound implements Edit
{
    public function __construct(public string $switch, public string $sound, public string $name)
    {
    }

    public function apply(Session $session): Session
    {
        $location = Sounds::find($session, $this->switch);
        $sound = Sounds::sound($location->switch, $this->sound);

        return $session->withChannel($location->channel->withSoundSwitch($location->switch->withSound($sound->withName($this->name))));
    }

    public function label(Session $before): string
    {
        return "Name sound {$this->name}";
    }

    public function touches(Session $before): array
    {
        return ["sounds/{$this->switch}/{$this->sound}/name"];
    }
}
