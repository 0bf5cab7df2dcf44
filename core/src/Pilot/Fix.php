<?php

declare(strict_types=1);

namespace Hafen\Pilot;

/** An edit that would put something right, as JSON for the edit codec, and what to call it on a button. */
final readonly class Fix
{
    /** @param  array<string, mixed>  $edit */
    public function __construct(public string $label, public array $edit)
    {
    }
}
