<?php

declare(strict_types=1);

namespace Hafen\Edit\Channel;

use Hafen\Edit\Channels;
use Hafen\Edit\Edit;
use Hafen\Session\Channel\Channel;
use Hafen\Session\Session;

/** Keeps channels audible while others are soloed. */
final readonly class SetSoloSafe implements Edit
{
    /** @param  list<string>  $channels */
    public function __construct(public array $channels, public bool $soloSafe)
    {
    }

    public function apply(Session $session): Session
    {
        return Channels::each($session, $this->channels, fn (Channel $channel): Channel => $channel->withSoloSafe($this->soloSafe));
    }

    public function label(Session $before): string
    {
        return Channels::named($before, $this->channels).($this->soloSafe ? ' solo-safe' : ' not solo-safe');
    }

    public function touches(Session $before): array
    {
        return Channels::paths($this->channels, 'soloSafe');
    }
}
