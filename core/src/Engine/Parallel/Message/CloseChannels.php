<?php

declare(strict_types=1);

namespace Hafen\Engine\Parallel\Message;

use Hafen\Engine\PlanChange;

/** Fade out what another revision takes apart. Not answered. */
final readonly class CloseChannels
{
    public function __construct(public PlanChange $change)
    {
    }
}
