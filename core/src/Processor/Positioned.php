<?php

declare(strict_types=1);

namespace Hafen\Processor;

/** A processor whose movement belongs to the session: wherever playing begins, it is where it would be had it run from the start. */
interface Positioned
{
    /** Seeks to a session sample. */
    public function at(int $position): void;
}
