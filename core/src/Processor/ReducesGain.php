<?php

declare(strict_types=1);

namespace Hafen\Processor;

/** A processor that turns the level down by a changing amount people want to see. */
interface ReducesGain
{
    /** Most reduction in the last block, in dB, 0 or more. */
    public function gainReduction(): float;
}
