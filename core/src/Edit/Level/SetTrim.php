<?php

declare(strict_types=1);

namespace Hafen\Edit\Level;

use Hafen\Audio\Decibel;
use Hafen\Edit\Channels;
use Hafen\Edit\Edit;
use Hafen\Session\Channel\Channel;
use Hafen\Session\Channel\ChannelTrim;
use Hafen\Session\Session;

/** Trims to one gain in dB; null is silence. */
final readonly class SetTrim implements Edit
{
    /** @param  list<string>  $channels */
    public function __construct(public array $channels, public ?float $gain)
    {
    }

    public function apply(Session $session): Session
    {
        return Channels::each($session, $this->channels, fn (Channel $channel): Channel => $channel->withTrim(new ChannelTrim($this->gain, $channel->trim->invert)));
    }

    public function label(Session $before): string
    {
        return 'Trim of '.Channels::named($before, $this->channels).' '.Decibel::text($this->gain);
    }

    public function touches(Session $before): array
    {
        return Channels::paths($this->channels, 'trim/gain');
    }
}
