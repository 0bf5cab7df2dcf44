<?php

declare(strict_types=1);

namespace Hafen\Engine;

/** What some feeds brought to a bus in another plan, with its sign turned: summed with a recording of the bus, it takes them out of it. */
final readonly class RemovedFeeds implements Contribution
{
    /** @param  StripInput  $input  of the bus in the other plan, whose strips have been worked for the same block */
    public function __construct(private StripInput $input)
    {
    }

    public function parts(int $position, int $frames): ?array
    {
        $block = $this->input->read($position, $frames);

        return $block->isSilent ? null : [[$block->left, -1.0], $block->mono ? null : [$block->right, -1.0]];
    }
}
