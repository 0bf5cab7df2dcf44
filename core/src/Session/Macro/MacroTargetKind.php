<?php

declare(strict_types=1);

namespace Hafen\Session\Macro;

/** What a macro can move. */
enum MacroTargetKind: string
{
    case Parameter = 'parameter';
    case Mix = 'mix';
    case Send = 'send';
    case Branch = 'branch';
    case On = 'on';
    case Selector = 'selector';

    /** Whether its values are gains in dB, null being silence. */
    public function isGain(): bool
    {
        return $this === self::Send || $this === self::Branch;
    }
}
