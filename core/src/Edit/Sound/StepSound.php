<?php

declare(strict_types=1);

namespace Hafen\Edit\Sound;

use Hafen\Edit\Edit;
use Hafen\Edit\Refusals\NoSuchSound;
use Hafen\Session\Session;
use Hafen\Session\Sound\Sound;
use Hafen\Session\Sound\SoundControls;

/** Chooses the sound after the chosen one of a switch, or the one before; at its ends it stays there. */
final readonly class StepSound implements Edit
{
    public function __construct(public string $switch, public bool $isForward, private SoundControls $controls)
    {
    }

    public function apply(Session $session): Session
    {
        $location = Sounds::find($session, $this->switch);

        return $this->controls->chosen($session, $location->channel, $location->switch, $this->next($session) ?? throw NoSuchSound::switchWithId($this->switch));
    }

    public function label(Session $before): string
    {
        return Sounds::named($before, $this->switch, $this->next($before)?->id);
    }

    public function touches(Session $before): array
    {
        return ["sounds/{$this->switch}/chosen", ...Sounds::paths($before->soundSwitch($this->switch)?->switch)];
    }

    private function next(Session $session): ?Sound
    {
        $switch = $session->soundSwitch($this->switch)?->switch;
        $sounds = $switch->sounds ?? [];
        $at = $switch?->chosen === null ? null : $switch->placeOf($switch->chosen);

        return $sounds[$at === null ? 0 : max(0, min(count($sounds) - 1, $at + ($this->isForward ? 1 : -1)))] ?? null;
    }
}
