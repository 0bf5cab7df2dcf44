<?php

declare(strict_types=1);

namespace Hafen\Edit;

use Hafen\Session\Session;

/** Two inserts change places, in one row or across channels. */
final readonly class SwapInserts implements Edit
{
    public function __construct(public string $insert, public string $with)
    {
    }

    public function apply(Session $session): Session
    {
        $one = Channels::insert($session, $this->insert);
        $two = Channels::insert($session, $this->with);
        $session = $session->withInsert($one, $two->insert);
        // In one row the first exchange has already changed what the second starts from.
        $row = Channels::find($session, $two->channel->id)->row($two->row);
        $row[$two->index] = $one->insert;

        return $session->withChannel(Channels::find($session, $two->channel->id)->withRow($two->row, array_values($row)));
    }

    public function label(Session $before): string
    {
        return 'Swap two inserts on '.($before->place($this->insert)->channel->name ?? '');
    }

    public function touches(Session $before): array
    {
        $paths = ["inserts/{$this->insert}/place", "inserts/{$this->with}/place"];
        foreach ([$this->insert, $this->with] as $id) {
            $channel = $before->place($id)?->channel->id;
            if ($channel !== null) {
                $paths[] = "channels/{$channel}/row";
            }
        }

        return array_values(array_unique($paths));
    }
}
