<?php

declare(strict_types=1);

namespace Hafen\Edit\Split;

use Hafen\Edit\Edit;
use Hafen\Edit\Insert\Rows;
use Hafen\Edit\Refusals\NoSuchBranch;
use Hafen\Edit\Refusals\RowIsFull;
use Hafen\Session\Session;

/** Puts the inserts of one branch in the place of the whole split. */
final readonly class DissolveSplit implements Edit
{
    /** @param  string  $keep  id of the branch whose inserts stay */
    public function __construct(public string $split, public string $keep)
    {
    }

    public function apply(Session $session): Session
    {
        [$location, $split] = Branches::split($session, $this->split);
        foreach ($split->branches as $branch) {
            if ($branch->id === $this->keep) {
                if (count($location->neighbours) - 1 + count($branch->inserts) > Rows::MOST) {
                    throw RowIsFull::of($location->channel->name, Rows::MOST);
                }

                return $session->withInsert($location, ...$branch->inserts);
            }
        }
        throw NoSuchBranch::withId($this->keep);
    }

    public function label(Session $before): string
    {
        return 'Dissolve the split of '.($before->locate($this->split)->channel->name ?? '').', keep '.($before->branch($this->keep)->branch->name ?? '');
    }

    public function touches(Session $before): array
    {
        $location = $before->locate($this->split);

        return $location === null ? ["inserts/{$this->split}"] : ["channels/{$location->channel->id}/row", ...Branches::within($location->insert)];
    }
}
