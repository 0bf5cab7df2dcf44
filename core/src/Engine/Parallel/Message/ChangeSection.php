<?php

declare(strict_types=1);

namespace Hafen\Engine\Parallel\Message;

use Hafen\Engine\Parallel\Part;
use Hafen\Session\Session;

/** Go on with another revision. Answered by {@see SectionFacts}. */
final readonly class ChangeSection
{
    public function __construct(public Session $session, public Part $part)
    {
    }
}
