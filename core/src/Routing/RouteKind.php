<?php

declare(strict_types=1);

namespace Hafen\Routing;

/** Kinds of routes between channels. */
enum RouteKind: string
{
    case Output = 'output';
    case Send = 'send';
    case Tap = 'tap';

    /** A sidechain: it controls an insert and is not audible. */
    case Sidechain = 'sidechain';
}
