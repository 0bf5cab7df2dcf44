<?php

declare(strict_types=1);

namespace Hafen\Edit\Insert;

use Hafen\Edit\Channels;
use Hafen\Edit\Edit;
use Hafen\Edit\Refusals\SplitIntoItself;
use Hafen\Edit\Split\Branches;
use Hafen\Session\Insert\Insert;
use Hafen\Session\Insert\Row;
use Hafen\Session\Session;

/**
 * Moves an insert within its row, to the other row, into a branch or out of it, or to another channel. `at` counts from 0
 * in the row as it is before the move; null is the end.
 */
final readonly class MoveInsert implements Edit
{
    public function __construct(
        public string $insert,
        public string $channel,
        public Row $row = Row::Inserts,
        public ?int $at = null,
        public ?string $branch = null,
    ) {
    }

    public function apply(Session $session): Session
    {
        $location = Channels::insert($session, $this->insert);
        $at = $this->at;
        $inSameRow = $location->branch === $this->branch && ($this->branch !== null || ($location->channel->id === $this->channel && $location->row === $this->row));
        if ($at !== null && $inSameRow && $at > $location->index) {
            --$at;
        }
        if ($this->branch !== null && self::holds($location->insert, $this->branch)) {
            throw SplitIntoItself::always();
        }

        return Rows::put(Rows::take($session, $this->insert), new InsertPosition($this->channel, $this->row, $at, $this->branch), [$location->insert]);
    }

    public function label(Session $before): string
    {
        $from = $before->locate($this->insert)?->channel->id;

        return $from === $this->channel
            ? 'Reorder inserts of '.Channels::named($before, [$this->channel])
            : 'Move insert to '.Channels::named($before, [$this->channel]);
    }

    public function touches(Session $before): array
    {
        $channels = array_values(array_unique(array_filter([$before->locate($this->insert)?->channel->id, $this->channel])));

        return [
            "inserts/{$this->insert}/place",
            ...Channels::paths($channels, 'row'),
            ...($this->branch === null ? [] : ["branches/{$this->branch}/row"]),
        ];
    }

    private static function holds(Insert $insert, string $branch): bool
    {
        return in_array("branches/{$branch}", Branches::within($insert), true);
    }
}
