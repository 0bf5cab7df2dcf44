<?php

declare(strict_types=1);

namespace Hafen\Printing;

/** Where a print goes. */
enum PrintPlace
{
    case NewTrack;
    case InPlace;
    case Files;
}
