<?php

declare(strict_types=1);

namespace Hafen\Session\Channel;

/** How many sides a channel's source has. Effects may make a mono channel wide; its pan stays a mono pan. */
enum Width: string
{
    case Mono = 'mono';
    case Stereo = 'stereo';
}
