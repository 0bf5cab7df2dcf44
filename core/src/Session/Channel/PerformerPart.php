<?php

declare(strict_types=1);

namespace Hafen\Session\Channel;

/** What a performer sets of the sends to a cue. */
enum PerformerPart: string
{
    case Me = 'me';
    case Band = 'band';
}
