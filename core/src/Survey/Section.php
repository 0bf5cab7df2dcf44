<?php

declare(strict_types=1);

namespace Hafen\Survey;

/** The two parts of a channel that are measured separately, so that a moved fader does not invalidate what is before it. */
enum Section: string
{
    case UpToFader = 'up-to-fader';
    case FromFader = 'from-fader';
}
