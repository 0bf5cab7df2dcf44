<?php

declare(strict_types=1);

namespace Hafen\Engine\Parallel\Message;

use Hafen\Note\HeldKeys;

/** From the next block on, these keys are held. Not answered. */
final readonly class HoldKeys
{
    public function __construct(public ?HeldKeys $held)
    {
    }
}
