<?php

declare(strict_types=1);

namespace Hafen\Engine;

use Hafen\Audio\Block;

/** Audio captured at a tap in an earlier run, read in place of computing it. */
interface Replay
{
    /**
     * @param  int  $sourcePosition  as the sources count; what was not recorded is silence
     */
    public function read(int $sourcePosition, int $frames): Block;
}
