<?php

declare(strict_types=1);

namespace Hafen\Edit\Insert;

use Hafen\Edit\Channels;
use Hafen\Edit\Edit;
use Hafen\Edit\Refusals\NothingSelected;
use Hafen\Edit\Split\Branches;
use Hafen\Session\Session;

/** Takes inserts out of their rows, splits with all that is in them. */
final readonly class RemoveInserts implements Edit
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
        foreach ($this->inserts as $id) {
            Channels::insert($session, $id);
        }
        foreach ($this->inserts as $id) {
            // One that stood in a split named before it has gone with it.
            $session = $session->locate($id) === null ? $session : Rows::take($session, $id);
        }

        return $session;
    }

    public function label(Session $before): string
    {
        if (count($this->inserts) > 1) {
            return 'Remove '.count($this->inserts).' inserts';
        }

        return 'Remove insert from '.($before->locate($this->inserts[0])->channel->name ?? '');
    }

    public function touches(Session $before): array
    {
        $paths = [];
        foreach ($this->inserts as $id) {
            $location = $before->locate($id);
            if ($location !== null) {
                array_push($paths, "channels/{$location->channel->id}/row", ...Branches::within($location->insert));
            }
        }

        return array_values(array_unique($paths));
    }
}
