<?php

declare(strict_types=1);

namespace Hafen\Edit\Split;

use Hafen\Edit\Edit;
use Hafen\Session\Insert\Branch;
use Hafen\Session\Insert\SelectorRange;
use Hafen\Session\Session;

/** Where the selector of a split opens a branch; null is everywhere. */
final readonly class SetSelectorRange implements Edit
{
    public function __construct(public string $branch, public ?SelectorRange $range)
    {
    }

    public function apply(Session $session): Session
    {
        return Branches::each($session, [$this->branch], fn (Branch $branch): Branch => $branch->withRange($this->range));
    }

    public function label(Session $before): string
    {
        return 'Range of '.Branches::named($before, [$this->branch]);
    }

    public function touches(Session $before): array
    {
        return Branches::paths([$this->branch], 'range');
    }
}
