<?php

declare(strict_types=1);

namespace Hafen\Edit\Split;

use Hafen\Edit\Edit;
use Hafen\Session\Insert\Branch;
use Hafen\Session\Session;

/** Turns the polarity of branches over. */
final readonly class SetBranchPolarity implements Edit
{
    /** @param  list<string>  $branches */
    public function __construct(public array $branches, public bool $invert)
    {
    }

    public function apply(Session $session): Session
    {
        return Branches::each($session, $this->branches, fn (Branch $branch): Branch => $branch->withInvert($this->invert));
    }

    public function label(Session $before): string
    {
        return 'Polarity of '.Branches::named($before, $this->branches);
    }

    public function touches(Session $before): array
    {
        return Branches::paths($this->branches, 'invert');
    }
}
