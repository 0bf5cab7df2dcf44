<?php

declare(strict_types=1);

namespace Hafen\Edit;

use Hafen\Session\Session;

/** Takes inserts out of their rows. */
final readonly class RemoveInserts implements Edit
{
    /** @param  list<string>  $inserts */
    public function __construct(public array $inserts)
    {
    }

    public function apply(Session $session): Session
    {
        if ($this->inserts === []) {
            throw EditRefused::nothingSelected();
        }
        foreach ($this->inserts as $id) {
            $place = Channels::insert($session, $id);
            $session = $session->withChannel(Rows::take($place->channel, $place->row, $id));
        }

        return $session;
    }

    public function label(Session $before): string
    {
        if (count($this->inserts) > 1) {
            return 'Remove '.count($this->inserts).' inserts';
        }

        return 'Remove insert from '.($before->place($this->inserts[0])->channel->name ?? '');
    }

    public function touches(Session $before): array
    {
        $paths = [];
        foreach ($this->inserts as $id) {
            $paths[] = "inserts/{$id}";
            $channel = $before->place($id)?->channel->id;
            if ($channel !== null) {
                $paths[] = "channels/{$channel}/row";
            }
        }

        return array_values(array_unique($paths));
    }
}
