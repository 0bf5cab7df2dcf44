<?php

declare(strict_types=1);

namespace Hafen\Edit\Split;

use Hafen\Edit\Edit;
use Hafen\Session\Insert\Branch;
use Hafen\Session\Session;

/** Mutes branches or lets them sound. */
final readonly class SetBranchMute implements Edit
{
    /** @param  list<string>  $branches */
    public function __construct(public array $branches, public bool $mute)
    {
    }

    public function apply(Session $session): Session
    {
        return Branches::each($session, $this->branches, fn (Branch $branch): Branch => $branch->withMute($this->mute));
    }

    public function label(Session $before): string
    {
        return ($this->mute ? 'Mute ' : 'Unmute ').Branches::named($before, $this->branches);
    }

    public function touches(Session $before): array
    {
        return Branches::paths($this->branches, 'mute');
    }
}
