<?php

declare(strict_types=1);

namespace Hafen\Edit\Insert;

use Hafen\Edit\Channels;
use Hafen\Edit\Edit;
use Hafen\Edit\Refusals\NothingSelected;
use Hafen\Session\FreshIds;
use Hafen\Session\Insert\Insert;
use Hafen\Session\Session;

/** Puts inserts that come from outside the session, such as a stored split, into a row or branch, under new ids. */
final readonly class PasteInserts implements Edit
{
    /** @param  list<Insert>  $inserts */
    public function __construct(public array $inserts, public InsertPosition $position, public string $name = '')
    {
    }

    public function apply(Session $session): Session
    {
        if ($this->inserts === []) {
            throw NothingSelected::atAll();
        }

        return Rows::put($session, $this->position, array_map(FreshIds::of($session)->copyOf(...), $this->inserts));
    }

    public function label(Session $before): string
    {
        $what = $this->name === '' ? (count($this->inserts) === 1 ? 'Insert' : count($this->inserts).' inserts') : $this->name;

        return "{$what} on ".Channels::named($before, [$this->position->channel]);
    }

    public function touches(Session $before): array
    {
        return $this->position->touches();
    }
}
