<?php

declare(strict_types=1);

namespace Hafen\Edit\Automation;

use Hafen\Edit\Channels;
use Hafen\Edit\Edit;
use Hafen\Session\Automation\AutomationCurve;
use Hafen\Session\Automation\AutomationLane;
use Hafen\Session\Automation\AutomationPoint;
use Hafen\Session\Automation\AutomationTarget;
use Hafen\Session\Channel\Channel;
use Hafen\Session\Session;

/** Fades channels in or out by their faders, from one sample to another; what their lanes do elsewhere stays. */
final readonly class Fade implements Edit
{
    /** @param  list<string>  $channels */
    public function __construct(public array $channels, public bool $isIn, public int $from, public int $to)
    {
    }

    public function apply(Session $session): Session
    {
        return Channels::each($session, $this->channels, $this->faded(...));
    }

    public function label(Session $before): string
    {
        return 'Fade '.Channels::named($before, $this->channels).($this->isIn ? ' in' : ' out');
    }

    public function touches(Session $before): array
    {
        return Channels::paths($this->channels, 'automation/fader');
    }

    private function faded(Channel $channel): Channel
    {
        $lane = $channel->lane('fader');
        $curve = $lane === null ? null : new AutomationCurve($lane);
        $loud = $curve === null ? $channel->fader : $curve->at($this->isIn ? $this->to : $this->from);
        $points = array_filter($lane->points ?? [], fn (AutomationPoint $point): bool => $this->isIn ? $point->at > $this->to : $point->at < $this->from);
        $fade = $this->isIn
            ? [new AutomationPoint($this->from, null), new AutomationPoint($this->to, $loud)]
            : [new AutomationPoint($this->from, $loud), new AutomationPoint($this->to, null)];

        // Before a fade-in and after a fade-out there is nothing.
        return $channel->withLane(new AutomationLane(AutomationTarget::fader(), $this->isIn ? [...$fade, ...array_values($points)] : [...array_values($points), ...$fade]));
    }
}
