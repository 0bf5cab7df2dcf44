<?php

declare(strict_types=1);

namespace Hafen\Edit\Split;

use Hafen\Edit\Channels;
use Hafen\Edit\Refusals\NoSuchBranch;
use Hafen\Edit\Refusals\NotASplit;
use Hafen\Edit\Refusals\NothingSelected;
use Hafen\Session\Insert\Branch;
use Hafen\Session\Insert\BranchLocation;
use Hafen\Session\Insert\Insert;
use Hafen\Session\Insert\InsertLocation;
use Hafen\Session\Insert\Split;
use Hafen\Session\Session;

/** Finds splits and branches, changes several branches at once, and names them. */
final class Branches
{
    public static function find(Session $session, string $id): BranchLocation
    {
        return $session->branch($id) ?? throw NoSuchBranch::withId($id);
    }

    /** @return array{InsertLocation, Split} */
    public static function split(Session $session, string $id): array
    {
        $location = Channels::insert($session, $id);

        return $location->insert instanceof Split ? [$location, $location->insert] : throw NotASplit::withId($id);
    }

    /**
     * @param  list<string>  $ids
     * @param  callable(Branch): Branch  $change
     */
    public static function each(Session $session, array $ids, callable $change): Session
    {
        if ($ids === []) {
            throw NothingSelected::atAll();
        }
        foreach ($ids as $id) {
            $location = self::find($session, $id);
            $session = $session->withBranch($location, $change($location->branch));
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
        $location = count($ids) === 1 ? $session->branch($ids[0]) : null;

        return $location === null ? count($ids).' branches' : "{$location->branch->name} of {$location->channel->name}";
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
        foreach ($insert->branches() as $branch) {
            $paths[] = "branches/{$branch->id}";
            foreach ($branch->inserts as $inner) {
                array_push($paths, ...self::within($inner));
            }
        }

        return $paths;
    }
}
