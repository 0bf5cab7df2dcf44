<?php

declare(strict_types=1);

namespace Hafen\Engine\Parallel\Message;

/** Read every tap of these channels only. Not answered. */
final readonly class MeterOnly
{
    /** @param  ?array<array-key, true>  $channels  by id; null is all of them */
    public function __construct(public ?array $channels)
    {
    }
}
