<?php

declare(strict_types=1);

namespace Hafen\Edit\Insert;

use Hafen\Edit\Channels;
use Hafen\Edit\Edit;
use Hafen\Session\Channel\Channel;
use Hafen\Session\Session;

/** Bypasses whole rows of inserts, or brings them back with each insert as it was. */
final readonly class SetRow implements Edit
{
    /** @param  list<string>  $channels */
    public function __construct(public array $channels, public bool $on)
    {
    }

    public function apply(Session $session): Session
    {
        return Channels::each($session, $this->channels, fn (Channel $channel): Channel => $channel->withInsertsOn($this->on));
    }

    public function label(Session $before): string
    {
        return 'Inserts of '.Channels::named($before, $this->channels).($this->on ? ' on' : ' bypassed');
    }

    public function touches(Session $before): array
    {
        return Channels::paths($this->channels, 'insertsOn');
    }
}
