<?php

declare(strict_types=1);

namespace Hafen\Note;

/** What happens to the notes of a channel. At the same sample it happens in this order. */
enum NoteEventKind: int
{
    /** Every note ends at once, its release as well. */
    case AllOff = 0;
    case Off = 1;
    case Control = 2;
    case On = 3;
}
