<?php

declare(strict_types=1);

namespace Hafen\Processor;

use Hafen\Dsp\Lfo;

/** What modulated processors share: one LFO on the session's time. Its class sets `lfo` where it is made. */
trait FollowsLfo
{
    private readonly Lfo $lfo;

    public function at(int $position): void
    {
        $this->lfo->at($position);
    }
}
