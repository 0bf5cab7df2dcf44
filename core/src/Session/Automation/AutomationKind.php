<?php

declare(strict_types=1);

namespace Hafen\Session\Automation;

/** What can be automated. */
enum AutomationKind: string
{
    case Fader = 'fader';
    case Pan = 'pan';
    case Mute = 'mute';
    case Send = 'send';
    case Mix = 'mix';
    case Parameter = 'parameter';

    /** Whether its values are gains in dB, null being silence. */
    public function isGain(): bool
    {
        return $this === self::Fader || $this === self::Send;
    }
}
