<?php

declare(strict_types=1);

namespace Hafen\Edit\Hardware;

use Hafen\Edit\Edit;
use Hafen\Session\FreshIds;
use Hafen\Session\Hardware\HardwareLoop;
use Hafen\Session\Session;

/** Defines a hardware loop: what goes out at which ports and comes back at which. */
final readonly class AddLoop implements Edit
{
    /** @param  HardwareLoop  $loop  whose id is not used: it gets a fresh one */
    public function __construct(public HardwareLoop $loop)
    {
    }

    public function apply(Session $session): Session
    {
        return Loops::put($session, $this->loop->withId(FreshIds::of($session)->loop()));
    }

    public function label(Session $before): string
    {
        return "Loop {$this->loop->name}";
    }

    public function touches(Session $before): array
    {
        return ['loops'];
    }
}
