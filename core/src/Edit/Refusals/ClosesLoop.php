<?php

declare(strict_types=1);

namespace Hafen\Edit\Refusals;

use Hafen\Edit\EditRefused;

/** A route by which sound would come back to where it was. */
final class ClosesLoop extends EditRefused
{
    /** @param  string  $loop  "Plate -> Wash -> Plate" */
    public static function through(string $loop): self
    {
        return new self('loop', "This would close a loop: {$loop}. Sound going round in it would grow without end.");
    }
}
