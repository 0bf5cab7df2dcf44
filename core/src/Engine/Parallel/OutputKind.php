<?php

declare(strict_types=1);

namespace Hafen\Engine\Parallel;

enum OutputKind: string
{
    /** What others take at a place of a channel. */
    case Passing = 'passing';

    /** What somebody listens to at a place of a channel. */
    case Tap = 'tap';

    /** A part of what feeds a channel of another process. */
    case Sum = 'sum';
}
