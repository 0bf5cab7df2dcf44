<?php

declare(strict_types=1);

namespace Hafen\Edit;

use Hafen\Session\Channel;
use Hafen\Session\Insert;
use Hafen\Session\Row;

/** Takes inserts out of rows and puts them in. */
final class Rows
{
    public const MOST = 128;

    /** Puts an insert at a place counted from 0; null is the end. */
    public static function put(Channel $channel, Row $row, Insert $insert, ?int $at): Channel
    {
        $inserts = $channel->row($row);
        if (count($inserts) >= self::MOST) {
            throw EditRefused::rowFull($channel->name, self::MOST);
        }
        array_splice($inserts, max(0, min($at ?? count($inserts), count($inserts))), 0, [$insert]);

        return $channel->withRow($row, $inserts);
    }

    public static function take(Channel $channel, Row $row, string $id): Channel
    {
        return $channel->withRow($row, array_values(array_filter(
            $channel->row($row),
            static fn (Insert $insert): bool => $insert->id() !== $id,
        )));
    }
}
