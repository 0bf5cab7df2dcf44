<?php

declare(strict_types=1);

namespace Hafen\Hardware;

use Hafen\Refusal;
use Hafen\Session\Hardware\HardwareLoop;

/** A ping that measured nothing. */
final class PingFailed extends Refusal
{
    public static function nothingBack(HardwareLoop $loop): self
    {
        return new self('ping', "Nothing comes back through {$loop->name}: it goes out at {$loop->send} and should come in at {$loop->return}. Is the unit plugged in there, switched on, and turned up?");
    }

    public static function clipped(HardwareLoop $loop, int $samples): self
    {
        return new self('ping', "What comes back through {$loop->name} clips at the converter ({$samples} samples). Turn the unit or the input down, and ping again.");
    }
}
