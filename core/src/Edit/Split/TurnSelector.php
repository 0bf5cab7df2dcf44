<?php

declare(strict_types=1);

namespace Hafen\Edit\Split;

use Hafen\Edit\Edit;
use Hafen\Session\Insert\Selector;
use Hafen\Session\Session;

/** Turns the selector of a split to a place from 0 to 1. */
final readonly class TurnSelector implements Edit
{
    public function __construct(public string $split, public float $value)
    {
    }

    public function apply(Session $session): Session
    {
        return Selectors::change($session, $this->split, fn (Selector $selector): Selector => $selector->withValue($this->value));
    }

    public function label(Session $before): string
    {
        return 'Selector of '.Selectors::named($before, $this->split).' '.round($this->value * 100).' %';
    }

    public function touches(Session $before): array
    {
        return ["inserts/{$this->split}/selector"];
    }
}
