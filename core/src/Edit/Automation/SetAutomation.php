<?php

declare(strict_types=1);

namespace Hafen\Edit\Automation;

use Hafen\Edit\Channels;
use Hafen\Edit\Edit;
use Hafen\Session\Automation\AutomationLane;
use Hafen\Session\Automation\AutomationPoint;
use Hafen\Session\Automation\AutomationTarget;
use Hafen\Session\Channel\Channel;
use Hafen\Session\Session;

/** All points of one automation lane; without any the lane is gone and the control stands still. */
final readonly class SetAutomation implements Edit
{
    /** @param  list<AutomationPoint>  $points */
    public function __construct(public string $channel, public AutomationTarget $target, public array $points)
    {
    }

    public function apply(Session $session): Session
    {
        return Channels::each($session, [$this->channel], fn (Channel $channel): Channel => $this->points === []
            ? $channel->withoutLane($this->target)
            : $channel->withLane(new AutomationLane($this->target, $this->points)));
    }

    public function label(Session $before): string
    {
        return ($this->points === [] ? 'No automation of ' : 'Automate ').$this->target->kind->value.' of '.Channels::named($before, [$this->channel]);
    }

    public function touches(Session $before): array
    {
        return ["channels/{$this->channel}/automation/{$this->target->text()}"];
    }
}
