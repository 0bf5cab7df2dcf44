<?php

declare(strict_types=1);

namespace Hafen\Session\Insert;

/**
 * The keys, or the velocities, a branch plays for, both ends included. Towards an end with a fade notes get softer: over so many keys or
 * velocities evenly to nothing.
 */
final readonly class NoteZone
{
    public function __construct(public int $from = 0, public int $to = 127, public int $fadeFrom = 0, public int $fadeTo = 0)
    {
    }

    /** What a note's velocity is multiplied with; 0 where the branch does not play it. */
    public function gain(float $at): float
    {
        if ($at < $this->from || $at > $this->to) {
            return 0.0;
        }

        return min(1.0, ($at - $this->from + 1.0) / ($this->fadeFrom + 1.0), ($this->to - $at + 1.0) / ($this->fadeTo + 1.0));
    }
}
