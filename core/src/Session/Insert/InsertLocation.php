<?php

declare(strict_types=1);

namespace Hafen\Session\Insert;

use Hafen\Session\Channel\Channel;

/** The location of an insert: in a row of a channel, or in a branch of a split in that row. */
final readonly class InsertLocation
{
    /**
     * @param  int  $index  among its neighbours
     * @param  list<Insert>  $neighbours  the row or branch it stands in, itself included
     * @param  ?string  $branch  id of that branch; null on the row itself
     */
    public function __construct(
        public Channel $channel,
        public Row $row,
        public int $index,
        public Insert $insert,
        public array $neighbours,
        public ?string $branch = null,
    ) {
    }
}
