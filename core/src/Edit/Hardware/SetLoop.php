<?php

declare(strict_types=1);

namespace Hafen\Edit\Hardware;

use Closure;
use Hafen\Edit\Edit;
use Hafen\Session\Hardware\HardwareLoop;
use Hafen\Session\Session;

/** Sets a hardware loop otherwise: its name, ports, unit, trims, polarity, tail, delay, or how its unit is set. */
final readonly class SetLoop implements Edit
{
    /**
     * @param  string  $what  is set, as a few words
     * @param  Closure(HardwareLoop): HardwareLoop  $change
     */
    public function __construct(public string $loop, public string $what, private Closure $change)
    {
    }

    public function apply(Session $session): Session
    {
        return Loops::put($session, ($this->change)(Loops::find($session, $this->loop)));
    }

    public function label(Session $before): string
    {
        return ucfirst("{$this->what} of ").($before->loop($this->loop)->name ?? '');
    }

    public function touches(Session $before): array
    {
        return ["loops/{$this->loop}"];
    }
}
