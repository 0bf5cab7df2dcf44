<?php

declare(strict_types=1);

namespace Hafen\Engine\Parallel\Message;

use Hafen\Engine\Parallel\StripFacts;

/** What a section is made of once it is compiled. */
final readonly class SectionFacts
{
    /**
     * @param  array<array-key, StripFacts>  $strips  by channel id
     * @param  list<string>  $taps  ids in the order of readings
     * @param  list<string>  $loads  ids in the order of loads
     * @param  array<string, string>  $unplayable  why frozen channels play live, by channel id
     */
    public function __construct(public array $strips, public array $taps, public array $loads, public array $unplayable)
    {
    }
}
