<?php

declare(strict_types=1);

namespace Hafen\Session\Insert;

/** What of a note moves a selector. */
enum NoteValue: string
{
    case Key = 'key';

    case Velocity = 'velocity';
}
