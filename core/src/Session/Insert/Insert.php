<?php

declare(strict_types=1);

namespace Hafen\Session\Insert;

use Hafen\Session\Source\TapSource;

/** One stop on a channel's row. */
interface Insert
{
    public function id(): string;

    public function isOn(): bool;

    public function withOn(bool $on): self;

    public function withId(string $id): self;

    /** @return list<Branch> in which further inserts stand */
    public function branches(): array;

    /** @param  callable(Branch): Branch  $change  of each of its branches */
    public function withEachBranch(callable $change): self;

    /** What it listens to instead of its own sound. */
    public function sidechain(): ?TapSource;
}
