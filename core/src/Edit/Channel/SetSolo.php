<?php

declare(strict_types=1);

namespace Hafen\Edit\Channel;

use Hafen\Edit\Channels;
use Hafen\Edit\Edit;
use Hafen\Session\Channel\Channel;
use Hafen\Session\Session;

/** Solos channels or ends it. */
final readonly class SetSolo implements Edit
{
    /** @param  list<string>  $channels */
    public function __construct(public array $channels, public bool $solo)
    {
    }

    public function apply(Session $session): Session
    {
        return Channels::each($session, $this->channels, fn (Channel $channel): Channel => $channel->withSolo($this->solo));
    }

    public function label(Session $before): string
    {
        return ($this->solo ? 'Solo ' : 'Solo off: ').Channels::named($before, $this->channels);
    }

    public function touches(Session $before): array
    {
        return Channels::paths($this->channels, 'solo');
    }
}
