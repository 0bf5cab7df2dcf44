<?php

declare(strict_types=1);

namespace Hafen\Edit\Print;

/** What becomes of a channel that was printed onto a new track. */
enum AfterPrint: string
{
    case Keep = 'keep';
    case Mute = 'mute';
    case Off = 'off';
    case Hide = 'hide';
}
