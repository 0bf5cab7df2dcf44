<?php

declare(strict_types=1);

namespace Hafen\Edit;

use Hafen\Session\Row;
use Hafen\Session\Session;

/**
 * Moves an insert within its row, to the other row, or to another channel. `at` counts from 0 in the row as it is before
 * the move; null is the end.
 */
final readonly class MoveInsert implements Edit
{
    public function __construct(
        public string $insert,
        public string $channel,
        public Row $row = Row::Inserts,
        public ?int $at = null,
    ) {
    }

    public function apply(Session $session): Session
    {
        $place = Channels::insert($session, $this->insert);
        $at = $this->at;
        if ($at !== null && $place->channel->id === $this->channel && $place->row === $this->row && $at > $place->index) {
            --$at;
        }
        $session = $session->withChannel(Rows::take($place->channel, $place->row, $this->insert));

        return $session->withChannel(Rows::put(Channels::find($session, $this->channel), $this->row, $place->insert, $at));
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

        return ["inserts/{$this->insert}/place", ...Channels::paths($channels, 'row')];
    }
}
