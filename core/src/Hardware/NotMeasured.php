<?php

declare(strict_types=1);

namespace Hafen\Hardware;

use Hafen\Refusal;
use Hafen\Session\Hardware\HardwareLoop;

/** A hardware loop whose delay is not known as the interface is set now: what goes through it would not be lined up. */
final class NotMeasured extends Refusal
{
    public static function yet(HardwareLoop $loop): self
    {
        return new self('loop', "The delay of {$loop->name} is not measured yet. Ping it first.");
    }

    public static function withBuffer(HardwareLoop $loop, int $buffer): self
    {
        return new self('loop', "The delay of {$loop->name} was measured with a buffer of {$loop->delay?->buffer} samples, and the interface has {$buffer} now. Ping it again.");
    }

    /** @throws self when the delay of a loop is not that of an interface */
    public static function unless(HardwareLoop $loop, InterfaceLatency $latency): void
    {
        if ($loop->delay === null) {
            throw self::yet($loop);
        }
        if ($loop->delay->buffer !== $latency->buffer) {
            throw self::withBuffer($loop, $latency->buffer);
        }
    }
}
