<?php

declare(strict_types=1);

namespace Hafen\Pilot;

use Hafen\Edit\Json\EditRequest;

/** An edit that would put something right, and what to call it on a button. */
final readonly class Fix
{
    public function __construct(public string $label, public EditRequest $edit)
    {
    }
}
