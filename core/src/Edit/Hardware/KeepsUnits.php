<?php

declare(strict_types=1);

namespace Hafen\Edit\Hardware;

use Hafen\Edit\Edit;
use Hafen\Edit\Refusals\UnitIsTaken;
use Hafen\Processor\ProcessorCatalogue;
use Hafen\Routing\UnitPlaces;
use Hafen\Session\Session;

/** Any edit, refused where a unit of outboard would be needed in two places at the same time, or an insert goes through a loop that is not there. */
final readonly class KeepsUnits implements Edit
{
    public function __construct(public Edit $edit, private ProcessorCatalogue $processors)
    {
    }

    public function apply(Session $session): Session
    {
        $after = $this->edit->apply($session);
        if ($after === $session) {
            return $after;
        }
        // What was kept in another session may go through a loop this one has not.
        foreach ($after->channels as $channel) {
            foreach ($channel->loops() as $loop) {
                Loops::find($after, $loop);
            }
        }
        $conflict = UnitPlaces::conflict($after, $this->processors);
        if ($conflict !== null) {
            // Who has it already is named first.
            throw UnitIsTaken::by(UnitPlaces::has($session, $conflict->one->id) ? $conflict : $conflict->turned());
        }

        return $after;
    }

    public function label(Session $before): string
    {
        return $this->edit->label($before);
    }

    public function touches(Session $before): array
    {
        return $this->edit->touches($before);
    }
}
