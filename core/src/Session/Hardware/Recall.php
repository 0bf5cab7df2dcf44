<?php

declare(strict_types=1);

namespace Hafen\Session\Hardware;

/** How a unit was set for this session: where its knobs stood, by their id, and notes. */
final readonly class Recall
{
    /** @param  array<string, float|string|bool>  $knobs */
    public function __construct(public array $knobs, public string $notes = '')
    {
    }
}
