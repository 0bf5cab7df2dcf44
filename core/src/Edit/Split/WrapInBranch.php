<?php

declare(strict_types=1);

namespace Hafen\Edit\Split;

use Hafen\Edit\Channels;
use Hafen\Edit\Edit;
use Hafen\Edit\Insert\InsertPosition;
use Hafen\Edit\Insert\Rows;
use Hafen\Edit\Refusals\NothingSelected;
use Hafen\Edit\Refusals\NotNeighbours;
use Hafen\Session\FreshIds;
use Hafen\Session\Insert\Branch;
use Hafen\Session\Insert\Insert;
use Hafen\Session\Insert\Split;
use Hafen\Session\Session;

/** Puts neighbouring inserts into a branch of a new split in their place, with the plain sound as the other branch. */
final readonly class WrapInBranch implements Edit
{
    /** @param  list<string>  $inserts */
    public function __construct(public array $inserts)
    {
    }

    public function apply(Session $session): Session
    {
        if ($this->inserts === []) {
            throw NothingSelected::atAll();
        }
        $first = Channels::insert($session, $this->inserts[0]);
        $picked = array_values(array_filter(
            $first->neighbours,
            fn (Insert $insert): bool => in_array($insert->id(), $this->inserts, true),
        ));
        $from = (int) array_search($picked[0], $first->neighbours, true);
        if (count($picked) < count(array_unique($this->inserts)) || array_slice($first->neighbours, $from, count($picked)) !== $picked) {
            throw NotNeighbours::inRow();
        }
        $ids = FreshIds::of($session);
        $split = new Split($ids->split(), [
            new Branch($ids->branch(), 'Dry'),
            new Branch($ids->branch(), 'Parallel', inserts: $picked),
        ]);
        foreach ($picked as $insert) {
            $session = Rows::take($session, $insert->id());
        }

        return Rows::put($session, new InsertPosition($first->channel->id, $first->row, $from, $first->branch), [$split]);
    }

    public function label(Session $before): string
    {
        $count = count($this->inserts);

        return ($count === 1 ? 'Insert' : "{$count} inserts").' of '.($before->locate($this->inserts[0] ?? '')->channel->name ?? '').' into a branch';
    }

    public function touches(Session $before): array
    {
        $channel = $before->locate($this->inserts[0] ?? '')?->channel->id;

        return [
            ...array_map(static fn (string $id): string => "inserts/{$id}/place", $this->inserts),
            ...($channel === null ? [] : ["channels/{$channel}/row"]),
        ];
    }
}
