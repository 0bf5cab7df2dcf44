<?php

declare(strict_types=1);

namespace Hafen\Session\Insert;

use Hafen\Session\Copies;
use Hafen\Session\Source\TapSource;

/** A hardware loop in a row: here the sound goes out to a unit and comes back. `mix` runs from 0 (dry) to 1 (all through the unit). */
final readonly class HardwareInsert implements Insert
{
    use Copies;

    public function __construct(public string $id, public string $loop, public bool $on = true, public float $mix = 1.0)
    {
    }

    public function id(): string
    {
        return $this->id;
    }

    public function isOn(): bool
    {
        return $this->on;
    }

    public function withId(string $id): self
    {
        return $this->copy(id: $id);
    }

    public function withOn(bool $on): self
    {
        return $this->copy(on: $on);
    }

    public function withMix(float $mix): self
    {
        return $this->copy(mix: $mix);
    }

    public function branches(): array
    {
        return [];
    }

    public function withEachBranch(callable $change): self
    {
        return $this;
    }

    public function sidechain(): ?TapSource
    {
        return null;
    }
}
