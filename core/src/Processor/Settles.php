<?php

declare(strict_types=1);

namespace Hafen\Processor;

/** A processor that goes on changing when nothing sounds any more: an envelope that falls, a count that runs on. */
interface Settles
{
    /** Whether silence leaves it as it is. */
    public function isSettled(): bool;
}
