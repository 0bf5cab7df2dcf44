<?php

declare(strict_types=1);

namespace Hafen\Engine\Parallel;

use Hafen\Engine\Contribution;

/** A part of what feeds a bus, summed by the process that works the channels it comes from. */
final readonly class RemoteSum implements Contribution
{
    public function __construct(public SumKey $key, private RemoteSection $section)
    {
    }

    public function parts(int $position, int $frames): ?array
    {
        $block = $this->section->sum($this->key);

        return $block === null || $block->isSilent ? null : [[$block->left, 1.0], $block->mono ? null : [$block->right, 1.0]];
    }
}
