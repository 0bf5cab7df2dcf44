<?php

declare(strict_types=1);

namespace Hafen\Edit\Split;

use Hafen\Edit\Edit;
use Hafen\Session\Insert\Branch;
use Hafen\Session\Session;

/** Sets where branches stand, from -1 (left) to +1 (right). */
final readonly class SetBranchPan implements Edit
{
    /** @param  list<string>  $branches */
    public function __construct(public array $branches, public float $pan)
    {
    }

    public function apply(Session $session): Session
    {
        return Branches::each($session, $this->branches, fn (Branch $branch): Branch => $branch->withPan($this->pan));
    }

    public function label(Session $before): string
    {
        return 'Pan of '.Branches::named($before, $this->branches);
    }

    public function touches(Session $before): array
    {
        return Branches::paths($this->branches, 'pan');
    }
}
