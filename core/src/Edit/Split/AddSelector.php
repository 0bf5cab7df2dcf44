<?php

declare(strict_types=1);

namespace Hafen\Edit\Split;

use Hafen\Edit\Edit;
use Hafen\Session\Insert\Branch;
use Hafen\Session\Insert\Selector;
use Hafen\Session\Insert\SelectorRange;
use Hafen\Session\Session;

/** A selector between the branches of a split, which each get a range of the same width. */
final readonly class AddSelector implements Edit
{
    public function __construct(public string $split)
    {
    }

    public function apply(Session $session): Session
    {
        [$location, $split] = Branches::split($session, $this->split);
        $ranges = SelectorRange::evenly(count($split->branches));
        $branches = array_map(static fn (Branch $branch, SelectorRange $range): Branch => $branch->withRange($range), $split->branches, $ranges);

        return $session->withInsert($location, $split->withBranches($branches)->withSelector(new Selector($ranges[0]->middle())));
    }

    public function label(Session $before): string
    {
        return 'Selector of '.Selectors::named($before, $this->split);
    }

    public function touches(Session $before): array
    {
        return Selectors::paths($before, $this->split);
    }
}
