<?php

declare(strict_types=1);

namespace Hafen\Edit\Insert;

use Hafen\Document\RowCodec;
use Hafen\Edit\Channels;
use Hafen\Edit\EditRefused;
use Hafen\Edit\Refusals\RowIsFull;
use Hafen\Edit\Refusals\SplitsTooDeep;
use Hafen\Edit\Split\Branches;
use Hafen\Session\Channel\Channel;
use Hafen\Session\Insert\Branch;
use Hafen\Session\Insert\Insert;
use Hafen\Session\Insert\Inserts;
use Hafen\Session\Session;

/** Takes inserts out of rows and branches and puts them in. */
final class Rows
{
    public const MOST = RowCodec::MOST_INSERTS;

    /**
     * @param  list<Insert>  $inserts
     *
     * @throws EditRefused when there is no room, or no such place
     */
    public static function put(Session $session, InsertPosition $position, array $inserts): Session
    {
        $channel = Channels::find($session, $position->channel);
        $into = static function (array $row) use ($channel, $position, $inserts): array {
            if (count($row) + count($inserts) > self::MOST) {
                throw RowIsFull::of($channel->name, self::MOST);
            }
            array_splice($row, max(0, min($position->at ?? count($row), count($row))), 0, $inserts);

            /** @var list<Insert> $row */
            return $row;
        };
        if ($position->branch === null) {
            $changed = $channel->withRow($position->row, $into($channel->row($position->row)));
        } else {
            $location = Branches::find($session, $position->branch);
            $channel = $location->channel;
            $changed = $channel->withRow($location->row, Inserts::changeBranch(
                $channel->row($location->row),
                $position->branch,
                static fn (Branch $branch): Branch => $branch->withInserts($into($branch->inserts)),
            ));
        }
        self::refuseTooDeep($changed);

        return $session->withChannel($changed);
    }

    public static function take(Session $session, string $id): Session
    {
        return $session->withInsert(Channels::insert($session, $id));
    }

    private static function refuseTooDeep(Channel $channel): void
    {
        if (max(self::depth($channel->inserts), self::depth($channel->postInserts)) > RowCodec::DEEPEST) {
            throw SplitsTooDeep::thanMost(RowCodec::DEEPEST);
        }
    }

    /** @param  list<Insert>  $row */
    private static function depth(array $row): int
    {
        $depth = 0;
        foreach ($row as $insert) {
            foreach ($insert->branches() as $branch) {
                $depth = max($depth, 1 + self::depth($branch->inserts));
            }
        }

        return $depth;
    }
}
