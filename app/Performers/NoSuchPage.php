<?php

declare(strict_types=1);

namespace App\Performers;

use Hafen\Refusal;

/** A performer's page whose key is not known: it was closed, or its cue or session is gone. */
final class NoSuchPage extends Refusal
{
    public static function any(): self
    {
        return new self('page', 'This page is closed. Ask at the desk for a new address.');
    }
}
