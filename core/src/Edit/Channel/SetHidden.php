<?php

declare(strict_types=1);

namespace Hafen\Edit\Channel;

use Hafen\Edit\Channels;
use Hafen\Edit\Edit;
use Hafen\Session\Channel\Channel;
use Hafen\Session\Session;

/** Hides channels from the screen or shows them; their sound stays. */
final readonly class SetHidden implements Edit
{
    /** @param  list<string>  $channels */
    public function __construct(public array $channels, public bool $hidden)
    {
    }

    public function apply(Session $session): Session
    {
        return Channels::each($session, $this->channels, fn (Channel $channel): Channel => $channel->withHidden($this->hidden));
    }

    public function label(Session $before): string
    {
        return ($this->hidden ? 'Hide ' : 'Show ').Channels::named($before, $this->channels);
    }

    public function touches(Session $before): array
    {
        return Channels::paths($this->channels, 'hidden');
    }
}
