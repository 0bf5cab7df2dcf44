<?php

declare(strict_types=1);

namespace Hafen\Edit\Split;

use Hafen\Edit\Edit;
use Hafen\Session\Insert\Selector;
use Hafen\Session\Session;

/** Turns the selector of a split to the next branch by its ranges, or to the one before. */
final readonly class StepSelector implements Edit
{
    public function __construct(public string $split, public bool $isForward)
    {
    }

    public function apply(Session $session): Session
    {
        [, $split] = Branches::split($session, $this->split);

        return Selectors::change($session, $this->split, fn (Selector $selector): Selector => $selector->withValue(Selectors::next($split, $this->isForward)));
    }

    public function label(Session $before): string
    {
        return 'Selector of '.Selectors::named($before, $this->split).' to the '.($this->isForward ? 'next branch' : 'branch before');
    }

    public function touches(Session $before): array
    {
        return ["inserts/{$this->split}/selector", ...Selectors::ranges($before, $this->split)];
    }
}
