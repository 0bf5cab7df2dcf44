<?php

declare(strict_types=1);

namespace Hafen\Edit;

use Hafen\Session\Branch;
use Hafen\Session\BranchPlace;
use Hafen\Session\Insert;
use Hafen\Session\InsertPlace;
use Hafen\Session\Session;
use Hafen\Session\Split;

/** Finds splits and branches, changes several branches at once, and names them. */
final class Branches
{
    public static function find(Session $session, string $id): BranchPlace
    {
        return $session->branch($id) ?? throw EditRefused::noSuchBranch($id);
    }

    /** @return array{InsertPlace, Split} */
    public static function split(Session $session, string $id): array
    {
        $place = Channels::insert($session, $id);

        return $place->insert instanceof Split ? [$place, $place->insert] : throw EditRefused::notASplit($id);
    }

    /**
     * @param  list<string>  $ids
     * @param  callable(Branch): Branch  $change
     */
    public static function each(Session $session, array $ids, callable $change): Session
    {
        if ($ids === []) {
            throw EditRefused::nothingSelected();
        }
        foreach ($ids as $id) {
            $place = self::find($session, $id);
            $session = $session->withBranch($place, $change($place->branch));
        }

        return $session;
    }

    /**
     * "Crush of Frame drum", or "2 branches".
     *
     * @param  list<string>  $ids
     */
    public static function named(Session $session, array $ids): string
    {
        $place = count($ids) === 1 ? $session->branch($ids[0]) : null;

        return $place === null ? count($ids).' branches' : "{$place->branch->name} of {$place->channel->name}";
    }

    /**
     * @param  list<string>  $ids
     * @return list<string>
     */
    public static function paths(array $ids, string $part): array
    {
        return array_map(static fn (string $id): string => "branches/{$id}/{$part}", $ids);
    }

    /**
     * The paths of an insert and of everything in it.
     *
     * @return list<string>
     */
    public static function within(Insert $insert): array
    {
        $paths = ["inserts/{$insert->id()}"];
        foreach ($insert instanceof Split ? $insert->branches : [] as $branch) {
            $paths[] = "branches/{$branch->id}";
            foreach ($branch->inserts as $inner) {
                array_push($paths, ...self::within($inner));
            }
        }

        return $paths;
    }
}
