<?php

declare(strict_types=1);

namespace Hafen\Edit\Macro;

use Hafen\Edit\Edit;
use Hafen\Session\Macro\MacroControls;
use Hafen\Session\Session;

/** Turns a macro to a value from 0 to 1, and all it moves with it. */
final readonly class TurnMacro implements Edit
{
    public function __construct(public string $macro, public float $value, private MacroControls $controls)
    {
    }

    public function apply(Session $session): Session
    {
        $location = Macros::find($session, $this->macro);
        $turned = $session->withChannel($location->channel->withMacro($location->macro->withValue($this->value)));

        return $this->controls->moved($turned, $location->channel->id, $location->macro->targets());
    }

    public function label(Session $before): string
    {
        $macro = $before->macro($this->macro)?->macro;
        $value = $macro?->isSwitch === true ? ($this->value >= 0.5 ? 'on' : 'off') : round($this->value * 100).' %';

        return Macros::named($before, $this->macro)." {$value}";
    }

    public function touches(Session $before): array
    {
        $macro = $before->macro($this->macro)?->macro;

        return ["macros/{$this->macro}/value", ...($macro === null ? [] : Macros::paths($macro))];
    }
}
