<?php

declare(strict_types=1);

namespace Hafen\Edit\Macro;

use Hafen\Edit\Edit;
use Hafen\Session\Macro\Macro;
use Hafen\Session\Session;

/** Takes a macro away; what it moved stays where it is. */
final readonly class RemoveMacro implements Edit
{
    public function __construct(public string $macro)
    {
    }

    public function apply(Session $session): Session
    {
        $channel = Macros::find($session, $this->macro)->channel;

        return $session->withChannel($channel->withMacros(array_values(array_filter($channel->macros, fn (Macro $macro): bool => $macro->id !== $this->macro))));
    }

    public function label(Session $before): string
    {
        return 'Remove '.Macros::named($before, $this->macro);
    }

    public function touches(Session $before): array
    {
        $location = $before->macro($this->macro);

        return $location === null ? [] : ["macros/{$this->macro}", "channels/{$location->channel->id}/macros", ...Macros::paths($location->macro)];
    }
}
