<?php

declare(strict_types=1);

namespace Hafen\Session\Insert;

use Hafen\Session\Channel\Channel;

/** The location of a branch. */
final readonly class BranchLocation
{
    public function __construct(
        public Channel $channel,
        public Row $row,
        public Split $split,
        public int $index,
        public Branch $branch,
    ) {
    }
}
