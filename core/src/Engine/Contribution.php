<?php

declare(strict_types=1);

namespace Hafen\Engine;

/** What is summed into a bus: a feed, or a sum of some of them. */
interface Contribution
{
    /**
     * Its samples in the next block, and the gains the sum has to apply to them.
     *
     * @param  int  $position  of the first sample, as the sources count
     * @return ?array{array{list<float>, float}, ?array{list<float>, float}} left, right (null where it is the same); null for silence
     */
    public function parts(int $position, int $frames): ?array;
}
