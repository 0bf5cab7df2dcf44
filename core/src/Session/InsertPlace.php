<?php

declare(strict_types=1);

namespace Hafen\Session;

/** Where an insert stands. */
final readonly class InsertPlace
{
    public function __construct(
        public Channel $channel,
        public Row $row,
        public int $index,
        public Insert $insert,
    ) {
    }
}
