<?php

declare(strict_types=1);

namespace Hafen\Session\Macro;

/** How a macro moves one control: from a value at 0 % to another at 100 %, as a parameter has them; gains in dB, null is silence. */
final readonly class MacroMove
{
    /** @param  float  $curve  -1 (most of the way at first) to 1 (most of it at last); 0 goes evenly along the travel of the control */
    public function __construct(public MacroTarget $target, public ?float $from, public ?float $to, public float $curve = 0.0)
    {
    }
}
