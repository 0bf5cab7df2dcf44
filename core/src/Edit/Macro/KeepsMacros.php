<?php

declare(strict_types=1);

namespace Hafen\Edit\Macro;

use Hafen\Edit\Edit;
use Hafen\Session\Macro\Macro;
use Hafen\Session\Macro\MacroControls;
use Hafen\Session\Macro\MacroTarget;
use Hafen\Session\Session;
use Hafen\Session\Sound\SoundSwitch;

/** Any edit, and after it: macros and sound switches let go of what is gone, or went to another channel. */
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
            if (($channel->macros === [] && $channel->sounds === []) || $before === $channel) {
                continue;
            }
            $isThere = fn (?MacroTarget $target): bool => $target !== null && $this->controls->range($target, $channel) !== null;
            $macros = array_map(static fn (Macro $macro): Macro => $macro->keeping($isThere), $channel->macros);
            $sounds = array_map(static fn (SoundSwitch $switch): SoundSwitch => $switch->keeping(static fn (string $target): bool => $isThere(MacroTarget::fromString($target))), $channel->sounds);
            $after = $macros === $channel->macros && $sounds === $channel->sounds ? $after : $after->withChannel($channel->withMacros($macros)->withSounds($sounds));
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
