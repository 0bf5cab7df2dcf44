<?php

declare(strict_types=1);

namespace Hafen\Edit\Macro;

use Hafen\Edit\Edit;
use Hafen\Session\Macro\Macro;
use Hafen\Session\Macro\MacroControls;
use Hafen\Session\Macro\MacroTarget;
use Hafen\Session\Session;

/** Any edit, and after it: macros let go of what is gone, or went to another channel. */
final readonly class KeepsMacros implements Edit
{
    public function __construct(public Edit $edit, private MacroControls $controls)
    {
    }

    public function apply(Session $session): Session
    {
        $after = $this->edit->apply($session);
        foreach ($after->channels as $channel) {
            $before = $session->channel($channel->id);
            if ($channel->macros === [] || $before === $channel) {
                continue;
            }
            $kept = array_map(
                fn (Macro $macro): Macro => $macro->keeping(fn (MacroTarget $target): bool => $this->controls->range($target, $channel) !== null),
                $channel->macros,
            );
            $after = $kept === $channel->macros ? $after : $after->withChannel($channel->withMacros($kept));
        }

        return $after;
    }

    public function label(Session $before): string
    {
        return $this->edit->label($before);
    }

    public function touches(Session $before): array
    {
        return $this->edit->touches($before);
    }
}
