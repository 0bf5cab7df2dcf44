<?php

declare(strict_types=1);

namespace Hafen\Edit\Channel;

use Hafen\Edit\Channels;
use Hafen\Edit\Edit;
use Hafen\Edit\Refusals\CannotBeSwitchedOff;
use Hafen\Session\Channel\Channel;
use Hafen\Session\Session;

/** Switches channels off or on again: switched off, a channel is silent and takes nothing of the machine. */
final readonly class SetOff implements Edit
{
    /** @param  list<string>  $channels */
    public function __construct(public array $channels, public bool $off)
    {
    }

    public function apply(Session $session): Session
    {
        return Channels::each($session, $this->channels, fn (Channel $channel): Channel => $this->off && ! $channel->kind->canBeFrozen()
            ? throw CannotBeSwitchedOff::kind($channel)
            : $channel->withOff($this->off));
    }

    public function label(Session $before): string
    {
        return 'Switch '.Channels::named($before, $this->channels).($this->off ? ' off' : ' on');
    }

    public function touches(Session $before): array
    {
        return Channels::paths($this->channels, 'off');
    }
}
