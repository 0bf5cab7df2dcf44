<?php

declare(strict_types=1);

namespace Hafen\Edit\Freeze;

use Hafen\Session\Channel\Frozen;

/** A channel and the file that plays in its place. */
final readonly class FreezeOf
{
    public function __construct(public string $channel, public Frozen $frozen)
    {
    }
}
