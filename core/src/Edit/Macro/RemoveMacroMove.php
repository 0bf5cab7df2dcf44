<?php

declare(strict_types=1);

namespace Hafen\Edit\Macro;

use Hafen\Edit\Edit;
use Hafen\Session\Macro\MacroTarget;
use Hafen\Session\Session;

/** A macro moves a control no more; it stays where it is. */
final readonly class RemoveMacroMove implements Edit
{
    public function __construct(public string $macro, public MacroTarget $target)
    {
    }

    public function apply(Session $session): Session
    {
        $location = Macros::find($session, $this->macro);

        return $session->withChannel($location->channel->withMacro($location->macro->keeping(fn (MacroTarget $target): bool => $target != $this->target)));
    }

    public function label(Session $before): string
    {
        return 'What '.Macros::named($before, $this->macro).' moves';
    }

    public function touches(Session $before): array
    {
        return ["macros/{$this->macro}", Macros::path($this->target)];
    }
}
