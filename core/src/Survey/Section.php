<?php

declare(strict_types=1);

namespace Hafen\Survey;

/** The two halves of a channel that are measured by themselves: a moved fader leaves all that is before it as it was. */
enum Section: string
{
    case UpToFader = 'up-to-fader';
    case FromFader = 'from-fader';
}
