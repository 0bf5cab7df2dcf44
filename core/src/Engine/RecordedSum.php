<?php

declare(strict_types=1);

namespace Hafen\Engine;

/** What fed a bus when it was recorded, louder or softer by a factor. */
final readonly class RecordedSum implements Contribution
{
    public function __construct(private Replay $recording, private float $gain)
    {
    }

    public function parts(int $position, int $frames): ?array
    {
        $block = $this->recording->read($position, $frames);

        return $block->isSilent ? null : [[$block->left, $this->gain], $block->mono ? null : [$block->right, $this->gain]];
    }
}
