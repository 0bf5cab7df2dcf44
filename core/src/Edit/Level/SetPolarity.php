<?php

declare(strict_types=1);

namespace Hafen\Edit\Level;

use Hafen\Edit\Channels;
use Hafen\Edit\Edit;
use Hafen\Session\Channel\Channel;
use Hafen\Session\Channel\ChannelTrim;
use Hafen\Session\Session;

/** Polarity at the head of channels. */
final readonly class SetPolarity implements Edit
{
    /** @param  list<string>  $channels */
    public function __construct(public array $channels, public bool $invert)
    {
    }

    public function apply(Session $session): Session
    {
        return Channels::each($session, $this->channels, fn (Channel $channel): Channel => $channel->withTrim(new ChannelTrim($channel->trim->gain, $this->invert)));
    }

    public function label(Session $before): string
    {
        return ($this->invert ? 'Polarity of ' : 'Normal polarity of ').Channels::named($before, $this->channels).($this->invert ? ' inverted' : '');
    }

    public function touches(Session $before): array
    {
        return Channels::paths($this->channels, 'trim/invert');
    }
}
