<?php

declare(strict_types=1);

namespace Hafen\Edit\Split;

use Hafen\Edit\Edit;
use Hafen\Session\Insert\Selector;
use Hafen\Session\Insert\SelectorFade;
use Hafen\Session\Session;

/** How the branches of a selector fade, and whether what a branch holds rings out once it is left. */
final readonly class SetSelector implements Edit
{
    public function __construct(public string $split, public ?SelectorFade $fade, public ?bool $rings)
    {
    }

    public function apply(Session $session): Session
    {
        return Selectors::change($session, $this->split, fn (Selector $selector): Selector => $selector
            ->withFade($this->fade ?? $selector->fade)
            ->withRings($this->rings ?? $selector->rings));
    }

    public function label(Session $before): string
    {
        return 'Fades of the selector of '.Selectors::named($before, $this->split);
    }

    public function touches(Session $before): array
    {
        return ["inserts/{$this->split}/selector-fades"];
    }
}
