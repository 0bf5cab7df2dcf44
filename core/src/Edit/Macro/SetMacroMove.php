<?php

declare(strict_types=1);

namespace Hafen\Edit\Macro;

use Hafen\Edit\Edit;
use Hafen\Edit\Refusals\TooManyMacros;
use Hafen\Session\Macro\Macro;
use Hafen\Session\Macro\MacroControls;
use Hafen\Session\Macro\MacroMove;
use Hafen\Session\Session;

/** Lets a macro move a control, or move it otherwise; the control goes where the macros put it. */
final readonly class SetMacroMove implements Edit
{
    public function __construct(public string $macro, public MacroMove $move, private MacroControls $controls)
    {
    }

    public function apply(Session $session): Session
    {
        $location = Macros::find($session, $this->macro);
        if ($location->macro->move($this->move->target) === null && count($location->macro->moves) >= Macro::MOST_MOVES) {
            throw TooManyMacros::moves($location->macro->name, Macro::MOST_MOVES);
        }
        $moving = $session->withChannel($location->channel->withMacro($location->macro->withMove($this->move)));

        return $this->controls->moved($moving, $location->channel->id, [$this->move->target]);
    }

    public function label(Session $before): string
    {
        return 'What '.Macros::named($before, $this->macro).' moves';
    }

    public function touches(Session $before): array
    {
        return ["macros/{$this->macro}", Macros::path($this->move->target)];
    }
}
