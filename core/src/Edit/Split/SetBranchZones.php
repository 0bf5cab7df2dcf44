<?php

declare(strict_types=1);

namespace Hafen\Edit\Split;

use Hafen\Edit\Edit;
use Hafen\Session\Insert\Branch;
use Hafen\Session\Insert\NoteZone;
use Hafen\Session\Session;

/** The keys and the velocities of the notes a branch plays for; null is all. */
final readonly class SetBranchZones implements Edit
{
    public function __construct(public string $branch, public ?NoteZone $keys, public ?NoteZone $velocities)
    {
    }

    public function apply(Session $session): Session
    {
        return Branches::each($session, [$this->branch], fn (Branch $branch): Branch => $branch->withZones($this->keys, $this->velocities));
    }

    public function label(Session $before): string
    {
        return 'Notes of '.Branches::named($before, [$this->branch]);
    }

    public function touches(Session $before): array
    {
        return Branches::paths([$this->branch], 'zones');
    }
}
