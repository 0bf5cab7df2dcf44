<?php

declare(strict_types=1);

namespace Hafen\Edit;

use Hafen\Session\Session;

/** One change to a session: a pure function that keeps the rules of the job, or refuses. */
interface Edit
{
    /** @throws EditRefused naming the rule and what to do */
    public function apply(Session $session): Session;

    /** What was done, for the list of revisions: "Fader of Cello −3.0 dB". */
    public function label(Session $before): string;

    /**
     * The parts of a session this edit rests on or changes, as paths such as "channels/cello/fader". Two edits whose paths
     * are apart (none the same as, or the beginning of, another) can be made in either order.
     *
     * @return list<string>
     */
    public function touches(Session $before): array;
}
