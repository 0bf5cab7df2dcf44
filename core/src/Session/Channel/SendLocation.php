<?php

declare(strict_types=1);

namespace Hafen\Session\Channel;

/** Where a send starts. */
final readonly class SendLocation
{
    public function __construct(public Channel $channel, public Send $send)
    {
    }
}
