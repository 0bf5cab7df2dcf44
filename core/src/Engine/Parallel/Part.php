<?php

declare(strict_types=1);

namespace Hafen\Engine\Parallel;

/** What another process works. */
final readonly class Part
{
    /**
     * @param  list<string>  $channels  ids; all that feeds them is among them
     * @param  list<SumKey>  $sums  parts of what feeds channels elsewhere, where all of it comes from these
     */
    public function __construct(public array $channels, public array $sums = [])
    {
    }
}
