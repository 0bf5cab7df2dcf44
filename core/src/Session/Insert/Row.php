<?php

declare(strict_types=1);

namespace Hafen\Session\Insert;

/** The two rows of inserts a channel has: before the fader and after it. */
enum Row: string
{
    case Inserts = 'inserts';
    case PostInserts = 'postInserts';
}
