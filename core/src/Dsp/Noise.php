<?php

declare(strict_types=1);

namespace Hafen\Dsp;

/** White noise from a seed (Lewis, Goodman, Miller 1969). */
final class Noise
{
    private int $state;

    public function __construct(int $seed)
    {
        $this->state = max(1, $seed % 2_147_483_647);
    }

    /** Between -1 and +1. */
    public function next(): float
    {
        $this->state = ($this->state * 16807) % 2_147_483_647;

        return $this->state / 1_073_741_823.5 - 1.0;
    }

    /** @return list<float> */
    public function samples(int $count): array
    {
        $state = $this->state;
        $out = [];
        for ($i = 0; $i < $count; ++$i) {
            $state = ($state * 16807) % 2_147_483_647;
            $out[] = $state / 1_073_741_823.5 - 1.0;
        }
        $this->state = $state;

        return $out;
    }
}
