<?php

declare(strict_types=1);

namespace Hafen\Engine\Parallel\Message;

use Hafen\Session\Session;

/** Go on with another revision. Answered by {@see SectionFacts}. */
final readonly class ChangeSection
{
    /** @param  list<string>  $channels  ids */
    public function __construct(public Session $session, public array $channels)
    {
    }
}
