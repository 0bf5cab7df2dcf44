<?php

declare(strict_types=1);

namespace Hafen\Session\Sound;

use Hafen\Session\Channel\Channel;

/** A sound switch, and the channel it is of. */
final readonly class SoundLocation
{
    public function __construct(public Channel $channel, public SoundSwitch $switch)
    {
    }
}
