<?php

declare(strict_types=1);

namespace Hafen\Edit\Sound;

use Hafen\Edit\Edit;
use Hafen\Session\Automation\AutomationLane;
use Hafen\Session\Automation\AutomationPoint;
use Hafen\Session\Session;
use Hafen\Session\Sound\Sound;

/** Takes a sound away; all stays as it stands, and automation that chose it goes to the one before it. */
final readonly class RemoveSound implements Edit
{
    public function __construct(public string $switch, public string $sound)
    {
    }

    public function apply(Session $session): Session
    {
        $location = Sounds::find($session, $this->switch);
        $switch = $location->switch;
        $place = $switch->placeOf(Sounds::sound($switch, $this->sound)->id);
        $kept = array_values(array_filter($switch->sounds, fn (Sound $sound): bool => $sound->id !== $this->sound));
        $channel = $location->channel->withSoundSwitch($switch->withSounds($kept)->withChosen($switch->chosen === $this->sound ? null : $switch->chosen));
        $lane = $channel->lane("sound:{$this->switch}");
        if ($lane !== null) {
            $channel = $kept === [] ? $channel->withoutLane($lane->target) : $channel->withLane(new AutomationLane($lane->target, array_map(
                static fn (AutomationPoint $point): AutomationPoint => $point->value > 0.0 && $point->value >= $place ? $point->withValue($point->value - 1.0) : $point,
                $lane->points,
            )));
        }

        return $session->withChannel($channel);
    }

    public function label(Session $before): string
    {
        return 'Remove '.Sounds::named($before, $this->switch, $this->sound);
    }

    public function touches(Session $before): array
    {
        $channel = $before->soundSwitch($this->switch)?->channel->id;

        return ["sounds/{$this->switch}", "channels/{$channel}/automation/sound:{$this->switch}", ...Sounds::paths($before->soundSwitch($this->switch)?->switch)];
    }
}
