<?php

declare(strict_types=1);

namespace Hafen\Edit\Split;

use Hafen\Edit\Edit;
use Hafen\Edit\Refusals\NoBandAbove;
use Hafen\Edit\Refusals\TooManyBranches;
use Hafen\Session\FreshIds;
use Hafen\Session\Insert\Branch;
use Hafen\Session\Insert\SplitBy;
use Hafen\Session\Session;

/** Adds an empty branch to a split: one more copy, or the highest band cut in two an octave up. */
final readonly class AddBranch implements Edit
{
    public function __construct(public string $split, public ?string $name = null)
    {
    }

    public function apply(Session $session): Session
    {
        [$location, $split] = Branches::split($session, $this->split);
        $count = count($split->branches);
        if ($count >= $split->by->most()) {
            throw TooManyBranches::thanMost($split->by->most());
        }
        $crossovers = $split->crossovers;
        if ($split->by === SplitBy::Frequency) {
            $highest = $crossovers[$count - 2];
            $next = min(20000.0, $highest * 2);
            if ($next <= $highest) {
                throw NoBandAbove::frequency($highest);
            }
            $crossovers[] = $next;
        }
        $name = $this->name ?? ($split->by === SplitBy::Frequency ? 'Band '.($count + 1) : 'Branch '.($count + 1));
        $branches = [...$split->branches, new Branch(FreshIds::of($session)->branch(), $name)];

        return $session->withInsert($location, $split->withBranches($branches)->withCrossovers($crossovers));
    }

    public function label(Session $before): string
    {
        return 'Branch on '.($before->locate($this->split)->channel->name ?? '');
    }

    public function touches(Session $before): array
    {
        return ["inserts/{$this->split}/branches"];
    }
}
