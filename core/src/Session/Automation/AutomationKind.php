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
    /** Whether an insert is on. */
    case On = 'on';
    /** The level of a branch. */
    case Branch = 'branch';
    case Selector = 'selector';
    case Macro = 'macro';
    /** Which of its sounds a sound switch stands at, by their places from 0. */
    case Sound = 'sound';

    /** Whether its values are gains in dB, null being silence. */
    public function isGain(): bool
    {
        return $this === self::Fader || $this === self::Send || $this === self::Branch;
    }

    /** Whether a value stays up to the next point. */
    public function holds(): bool
    {
        return $this === self::Mute || $this === self::On || $this === self::Sound;
    }
}
