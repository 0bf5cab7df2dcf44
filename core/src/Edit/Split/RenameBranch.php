<?php

declare(strict_types=1);

namespace Hafen\Edit\Split;

use Hafen\Edit\Edit;
use Hafen\Session\Insert\Branch;
use Hafen\Session\Session;

/** Gives a branch another name. */
final readonly class RenameBranch implements Edit
{
    public function __construct(public string $branch, public string $name)
    {
    }

    public function apply(Session $session): Session
    {
        return Branches::each($session, [$this->branch], fn (Branch $branch): Branch => $branch->withName($this->name));
    }

    public function label(Session $before): string
    {
        return "Rename to {$this->name}";
    }

    public function touches(Session $before): array
    {
        return ["branches/{$this->branch}/name"];
    }
}
