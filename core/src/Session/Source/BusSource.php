<?php

declare(strict_types=1);

namespace Hafen\Session\Source;

/** The sum of everything whose output is this channel. */
final readonly class BusSource implements Source
{
    public function clips(): array
    {
        return [];
    }

    public function tapped(): ?TapSource
    {
        return null;
    }
}
