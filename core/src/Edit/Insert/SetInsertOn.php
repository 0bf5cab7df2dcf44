<?php

declare(strict_types=1);

namespace Hafen\Edit\Insert;

use Hafen\Edit\Channels;
use Hafen\Edit\Edit;
use Hafen\Edit\Refusals\NothingSelected;
use Hafen\Session\Session;

/** Switches inserts in or bypasses them. */
final readonly class SetInsertOn implements Edit
{
    /** @param  list<string>  $inserts */
    public function __construct(public array $inserts, public bool $on)
    {
    }

    public function apply(Session $session): Session
    {
        if ($this->inserts === []) {
            throw NothingSelected::atAll();
        }
        foreach ($this->inserts as $id) {
            $location = Channels::insert($session, $id);
            $session = $session->withInsert($location, $location->insert->withOn($this->on));
        }

        return $session;
    }

    public function label(Session $before): string
    {
        $what = count($this->inserts) === 1
            ? 'Insert on '.($before->locate($this->inserts[0])->channel->name ?? '')
            : count($this->inserts).' inserts';

        return $what.($this->on ? ' on' : ' bypassed');
    }

    public function touches(Session $before): array
    {
        return array_map(static fn (string $id): string => "inserts/{$id}/on", $this->inserts);
    }
}
