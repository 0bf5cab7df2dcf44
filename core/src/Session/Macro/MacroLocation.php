<?php

declare(strict_types=1);

namespace Hafen\Session\Macro;

use Hafen\Session\Channel\Channel;

/** A macro and the channel it is of. */
final readonly class MacroLocation
{
    public function __construct(public Channel $channel, public Macro $macro)
    {
    }
}
