<?php

declare(strict_types=1);

namespace Hafen\Session\Insert;

use Hafen\Session\Source\TapSource;

/** A hardware loop in a row: here the sound goes out to a unit and comes back. `mix` runs from 0 (dry) to 1 (all through the unit). */
final readonly class HardwareInsert implements Insert
{
    use SingleInsert;

    public function __construct(public string $id, public string $loop, public bool $on = true, public float $mix = 1.0)
    {
    }

    public function sidechain(): ?TapSource
    {
        return null;
    }
}
