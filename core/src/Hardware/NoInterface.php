<?php

declare(strict_types=1);

namespace Hafen\Hardware;

use Hafen\Refusal;
use Hafen\Session\Hardware\HardwareLoop;

/** Sound that goes through a unit of outboard where no audio interface is. */
final class NoInterface extends Refusal
{
    public static function for(HardwareLoop $loop): self
    {
        return new self('loop', "{$loop->name} is reached through the audio interface only, and there is none here. Freeze or print what goes through it where the interface is.");
    }
}
