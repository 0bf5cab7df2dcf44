<?php

declare(strict_types=1);

namespace Hafen\Routing;

/** How sound comes from one channel to another. */
enum RouteKind: string
{
    case Output = 'output';
    case Send = 'send';
    case Tap = 'tap';

    /** What an insert listens to: it is not heard. */
    case Sidechain = 'sidechain';
}
