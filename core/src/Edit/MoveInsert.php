<?php

declare(strict_types=1);

namespace Hafen\Edit;

use Hafen\Session\Insert;
use Hafen\Session\Row;
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
        $place = Channels::insert($session, $this->insert);
        $at = $this->at;
        $inSameRow = $place->branch === $this->branch && ($this->branch !== null || ($place->channel->id === $this->channel && $place->row === $this->row));
        if ($at !== null && $inSameRow && $at > $place->index) {
            --$at;
        }
        if ($this->branch !== null && self::holds($place->insert, $this->branch)) {
            throw EditRefused::intoItself();
        }

        return Rows::put(Rows::take($session, $this->insert), new Spot($this->channel, $this->row, $at, $this->branch), [$place->insert]);
    }

    public function label(Session $before): string
    {
        $from = $before->place($this->insert)?->channel->id;

        return $from === $this->channel
            ? 'Reorder inserts of '.Channels::named($before, [$this->channel])
            : 'Move insert to '.Channels::named($before, [$this->channel]);
    }

    public function touches(Session $before): array
    {
        $channels = array_values(array_unique(array_filter([$before->place($this->insert)?->channel->id, $this->channel])));

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
