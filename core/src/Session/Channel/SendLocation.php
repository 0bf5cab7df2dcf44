<?php

declare(strict_types=1);

namespace Hafen\Session\Channel;

/** The channel a send belongs to. */
final readonly class SendLocation
{
    public function __construct(public Channel $channel, public Send $send)
    {
    }
}
