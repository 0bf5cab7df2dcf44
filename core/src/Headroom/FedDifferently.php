<?php

declare(strict_types=1);

namespace Hafen\Headroom;

/** A level-dependent insert that gets another level than before, in dB. */
final readonly class FedDifferently
{
    public function __construct(public string $channel, public string $insert, public string $processor, public float $by)
    {
    }
}
