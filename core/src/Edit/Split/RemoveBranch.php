<?php

declare(strict_types=1);

namespace Hafen\Edit\Split;

use Hafen\Edit\Edit;
use Hafen\Edit\Refusals\TooFewBranches;
use Hafen\Session\Insert\Branch;
use Hafen\Session\Insert\SplitBy;
use Hafen\Session\Session;

/** Takes a branch and its inserts out of a split; of bands, the neighbour takes over its frequencies. */
final readonly class RemoveBranch implements Edit
{
    public function __construct(public string $branch)
    {
    }

    public function apply(Session $session): Session
    {
        $found = Branches::find($session, $this->branch);
        [$location, $split] = Branches::split($session, $found->split->id);
        $branches = array_values(array_filter($split->branches, fn (Branch $branch): bool => $branch->id !== $this->branch));
        if (count($branches) < $split->by->fewest() || $branches === []) {
            throw TooFewBranches::thanFewest($split->by->fewest());
        }
        $crossovers = $split->crossovers;
        if ($split->by === SplitBy::Frequency) {
            array_splice($crossovers, min($found->index, count($crossovers) - 1), 1);
        }

        return $session->withInsert($location, $split->withBranches($branches)->withCrossovers($crossovers));
    }

    public function label(Session $before): string
    {
        return 'Remove branch '.Branches::named($before, [$this->branch]);
    }

    public function touches(Session $before): array
    {
        $found = $before->branch($this->branch);
        $paths = ["branches/{$this->branch}"];
        foreach ($found->branch->inserts ?? [] as $insert) {
            array_push($paths, ...Branches::within($insert));
        }

        return $found === null ? $paths : [...$paths, "inserts/{$found->split->id}/branches", "channels/{$found->channel->id}/row"];
    }
}
