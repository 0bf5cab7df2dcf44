<?php

declare(strict_types=1);

namespace Hafen\Session\Insert;

/** One stop on a channel's row. */
interface Insert
{
    public function id(): string;

    public function isOn(): bool;

    public function withOn(bool $on): self;

    public function withId(string $id): self;
}
