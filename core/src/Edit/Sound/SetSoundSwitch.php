<?php

declare(strict_types=1);

namespace Hafen\Edit\Sound;

use Hafen\Edit\Edit;
use Hafen\Session\Session;

/** The name of a sound switch, and its fade in ms. */
final readonly class SetSoundSwitch implements Edit
{
    public function __construct(public string $switch, public ?string $name, public ?float $fade)
    {
    }

    public function apply(Session $session): Session
    {
        $location = Sounds::find($session, $this->switch);
        $switch = $location->switch->withName($this->name ?? $location->switch->name)->withFade($this->fade ?? $location->switch->fade);

        return $session->withChannel($location->channel->withSoundSwitch($switch));
    }

    public function label(Session $before): string
    {
        return $this->name === null ? 'Fade of '.Sounds::named($before, $this->switch) : "Name sound switch {$this->name}";
    }

    public function touches(Session $before): array
    {
        return [...($this->name === null ? [] : ["sounds/{$this->switch}/name"]), ...($this->fade === null ? [] : ["sounds/{$this->switch}/fade"])];
    }
}
