<?php

declare(strict_types=1);

namespace Hafen\Edit\Channel;

use Hafen\Edit\Channels;
use Hafen\Edit\Edit;
use Hafen\Session\Channel\Channel;
use Hafen\Session\Session;

/** Mutes channels or lets them sound. */
final readonly class SetMute implements Edit
{
    /** @param  list<string>  $channels */
    public function __construct(public array $channels, public bool $mute)
    {
    }

    public function apply(Session $session): Session
    {
        return Channels::each($session, $this->channels, fn (Channel $channel): Channel => $channel->withMute($this->mute));
    }

    public function label(Session $before): string
    {
        return ($this->mute ? 'Mute ' : 'Unmute ').Channels::named($before, $this->channels);
    }

    public function touches(Session $before): array
    {
        return Channels::paths($this->channels, 'mute');
    }
}
