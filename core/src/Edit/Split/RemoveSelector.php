<?php

declare(strict_types=1);

namespace Hafen\Edit\Split;

use Hafen\Edit\Edit;
use Hafen\Session\Insert\Branch;
use Hafen\Session\Session;

/** Takes the selector of a split away: all of its branches are heard. */
final readonly class RemoveSelector implements Edit
{
    public function __construct(public string $split)
    {
    }

    public function apply(Session $session): Session
    {
        [$location, $split] = Branches::split($session, $this->split);
        $branches = array_map(static fn (Branch $branch): Branch => $branch->withRange(null), $split->branches);

        return $session->withInsert($location, $split->withBranches($branches)->withSelector(null));
    }

    public function label(Session $before): string
    {
        return 'No selector of '.Selectors::named($before, $this->split);
    }

    public function touches(Session $before): array
    {
        return Selectors::paths($before, $this->split);
    }
}
