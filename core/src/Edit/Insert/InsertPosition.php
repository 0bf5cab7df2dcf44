<?php

declare(strict_types=1);

namespace Hafen\Edit\Insert;

use Hafen\Session\Insert\Row;

/** A position among inserts, in a row of a channel or in a branch. `at` counts from 0; null is the end. */
final readonly class InsertPosition
{
    public function __construct(
        public string $channel,
        public Row $row = Row::Inserts,
        public ?int $at = null,
        public ?string $branch = null,
    ) {
    }

    public function at(?int $at): self
    {
        return new self($this->channel, $this->row, $at, $this->branch);
    }

    /** @return list<string> */
    public function touches(): array
    {
        return ["channels/{$this->channel}/row", ...($this->branch === null ? [] : ["branches/{$this->branch}/row"])];
    }
}
