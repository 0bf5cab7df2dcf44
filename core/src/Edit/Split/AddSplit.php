<?php

declare(strict_types=1);

namespace Hafen\Edit\Split;

use Hafen\Edit\Channels;
use Hafen\Edit\Edit;
use Hafen\Edit\Insert\InsertPosition;
use Hafen\Edit\Insert\Rows;
use Hafen\Session\FreshIds;
use Hafen\Session\Insert\Branch;
use Hafen\Session\Insert\Row;
use Hafen\Session\Insert\Split;
use Hafen\Session\Insert\SplitBy;
use Hafen\Session\Session;

/** Splits a row, or a branch, at a place counted from 0; null is the end. */
final readonly class AddSplit implements Edit
{
    /**
     * @param  int  $branches  as many as the way of splitting allows
     * @param  list<float>  $crossovers  Hz, rising, one fewer than branches: by frequency only
     */
    public function __construct(
        public InsertPosition $position,
        public SplitBy $by = SplitBy::Copies,
        public int $branches = 2,
        public array $crossovers = [],
    ) {
    }

    public function apply(Session $session): Session
    {
        $ids = FreshIds::of($session);
        $branches = array_map(static fn (string $name): Branch => new Branch($ids->branch(), $name), $this->by->names($this->branches));
        assert($branches !== []);

        return Rows::put($session, $this->position, [new Split($ids->split(), $branches, true, $this->by, $this->crossovers)]);
    }

    public function label(Session $before): string
    {
        $how = match ($this->by) {
            SplitBy::Copies => '',
            SplitBy::Frequency => ' by frequency',
            SplitBy::LeftRight => ' into left and right',
            SplitBy::MidSide => ' into mid and side',
        };

        return 'Split '.Channels::named($before, [$this->position->channel]).$how;
    }

    public function touches(Session $before): array
    {
        return $this->position->touches();
    }
}
