<?php

declare(strict_types=1);

namespace Hafen\Engine\Parallel\Message;

/** What was asked for was refused: a recording that is gone, a fault in the engine. */
final readonly class SectionRefusal
{
    public function __construct(public string $location, public string $message)
    {
    }
}
