<?php

declare(strict_types=1);

namespace Hafen\Engine\Parallel\Message;

/** Clear the state of all channels. Not answered. */
final readonly class ResetSection
{
}
