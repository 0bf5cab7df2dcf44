<?php

declare(strict_types=1);

namespace Hafen\Edit\Split;

use Hafen\Edit\Edit;
use Hafen\Session\Insert\Branch;
use Hafen\Session\Session;

/** Solos branches among those of their split. */
final readonly class SetBranchSolo implements Edit
{
    /** @param  list<string>  $branches */
    public function __construct(public array $branches, public bool $solo)
    {
    }

    public function apply(Session $session): Session
    {
        return Branches::each($session, $this->branches, fn (Branch $branch): Branch => $branch->withSolo($this->solo));
    }

    public function label(Session $before): string
    {
        return ($this->solo ? 'Solo ' : 'Solo off ').Branches::named($before, $this->branches);
    }

    public function touches(Session $before): array
    {
        return Branches::paths($this->branches, 'solo');
    }
}
