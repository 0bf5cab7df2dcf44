<?php

declare(strict_types=1);

namespace Hafen\Routing;

use Hafen\Session\Channel\Channel;
use Hafen\Session\Hardware\HardwareLoop;

/** Two places that would need one unit at the same time. */
final readonly class UnitConflict
{
    public function __construct(public HardwareLoop $loop, public Channel $one, public Channel $other)
    {
    }

    /** The same with the channels named the other way round. */
    public function turned(): self
    {
        return new self($this->loop, $this->other, $this->one);
    }
}
