<?php

declare(strict_types=1);

namespace Hafen\Session\Automation;

/**
 * Where a lane passes: at a sample of the session, a value. `curve`, -1 to 1, bends the way to the next point: 0 is straight,
 * above 0 it sets out slowly, below 0 it arrives slowly.
 */
final readonly class AutomationPoint
{
    /** @param  ?float  $value  dB for gains, null is silence; 0 or 1 for mute; otherwise in the unit of what is moved */
    public function __construct(public int $at, public ?float $value, public float $curve = 0.0)
    {
    }

    public function withValue(?float $value): self
    {
        return new self($this->at, $value, $this->curve);
    }
}
