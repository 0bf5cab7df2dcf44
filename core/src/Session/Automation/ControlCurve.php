<?php

declare(strict_types=1);

namespace Hafen\Session\Automation;

/** Where a control stands over time. */
interface ControlCurve
{
    /**
     * @param  int  $position  a sample of the session
     * @return ?float in the unit of the control; dB for gains, null is silence
     */
    public function at(int $position): ?float;
}
