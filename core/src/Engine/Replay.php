<?php

declare(strict_types=1);

namespace Hafen\Engine;

use Hafen\Audio\Block;

/** What passed a tap when it was worked before. */
interface Replay
{
    /**
     * @param  int  $sourcePosition  as the sources count; what was not recorded is silence
     */
    public function read(int $sourcePosition, int $frames): Block;
}
