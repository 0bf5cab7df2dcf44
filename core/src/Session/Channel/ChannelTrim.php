<?php

declare(strict_types=1);

namespace Hafen\Session\Channel;

/** Gain in dB (null is silence) and polarity at the head of a channel. */
final readonly class ChannelTrim
{
    public function __construct(public ?float $gain = 0.0, public bool $invert = false)
    {
    }
}
