<?php

declare(strict_types=1);

namespace Hafen\Load;

/** Freezes that bring a session to a load. */
final readonly class FreezePlan
{
    /**
     * @param  list<string>  $channels  to freeze, the heaviest first
     * @param  float  $before  load now, 1.0 is a core
     * @param  float  $after  predicted
     * @param  float  $seconds  of a core it takes to make them
     * @param  bool  $isReached  false where even these do not bring it there
     * @param  list<string>  $remaining  channels that take most then, the heaviest first
     */
    public function __construct(public array $channels, public float $before, public float $after, public float $seconds, public bool $isReached, public array $remaining)
    {
    }
}
