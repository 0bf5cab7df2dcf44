<?php

declare(strict_types=1);

namespace Hafen\Edit\Refusals;

use Hafen\Edit\EditRefused;

/** A second send from one channel to another. */
final class SendsAlready extends EditRefused
{
    public static function between(string $from, string $to): self
    {
        return new self('send', "{$from} sends to {$to} already. Change the amount of that send.");
    }
}
