<?php

declare(strict_types=1);

namespace App\Remote;

enum ReportKind: string
{
    /** A worker has it. */
    case Taken = 'taken';

    /** The worker is alive, and so far it has come. */
    case Beat = 'beat';

    /** It ended, however; the status says how. */
    case Ended = 'ended';

    /** It failed; the message says why. */
    case Failed = 'failed';

    /** The worker has to leave and gives it back. */
    case Left = 'left';
}
