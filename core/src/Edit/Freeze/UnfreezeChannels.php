<?php

declare(strict_types=1);

namespace Hafen\Edit\Freeze;

use Hafen\Edit\Channels;
use Hafen\Edit\Edit;
use Hafen\Session\Channel\Channel;
use Hafen\Session\Session;

/** Has frozen channels play themselves again. */
final readonly class UnfreezeChannels implements Edit
{
    /** @param  list<string>  $channels */
    public function __construct(public array $channels)
    {
    }

    public function apply(Session $session): Session
    {
        return Channels::each($session, $this->channels, static fn (Channel $channel): Channel => $channel->withFrozen(null));
    }

    public function label(Session $before): string
    {
        return 'Unfreeze '.Channels::named($before, $this->channels);
    }

    public function touches(Session $before): array
    {
        return Channels::paths($this->channels, 'frozen');
    }
}
