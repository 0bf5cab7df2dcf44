<?php

declare(strict_types=1);

namespace Hafen\Hardware\Plug;

/** An empty jack. */
final readonly class Nothing implements Plug
{
    public function sound(int $at, int $frames): array
    {
        return array_fill(0, $frames, 0.0);
    }
}
