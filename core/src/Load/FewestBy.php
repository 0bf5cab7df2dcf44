<?php

declare(strict_types=1);

namespace Hafen\Load;

/** Of which a plan of freezes takes the least. */
enum FewestBy: string
{
    case Channels = 'channels';
    case Time = 'time';
}
