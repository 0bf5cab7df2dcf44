<?php

declare(strict_types=1);

namespace Hafen\Session\Insert;

use Hafen\Session\Copies;

/** For inserts in which no others stand: with `id`, `on` and `mix` as properties. */
trait SingleInsert
{
    use Copies;

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
}
