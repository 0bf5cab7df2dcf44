<?php

declare(strict_types=1);

namespace Hafen\Edit\Split;

use Hafen\Edit\Refusals\NoSelector;
use Hafen\Session\Insert\Branch;
use Hafen\Session\Insert\Selector;
use Hafen\Session\Insert\Split;
use Hafen\Session\Session;

/** Finds and changes the selectors of splits, and names them. */
final class Selectors
{
    /** @param  callable(Selector): Selector  $change */
    public static function change(Session $session, string $id, callable $change): Session
    {
        [$location, $split] = Branches::split($session, $id);

        return $session->withInsert($location, $split->withSelector($change($split->selector ?? throw NoSelector::of($id))));
    }

    /** The middle of the next range above or below where the selector of a split stands; where it stands, where there is none. */
    public static function next(Split $split, bool $isForward): float
    {
        $value = $split->selector->value ?? 0.0;
        $middles = [];
        foreach ($split->branches as $branch) {
            $middles[] = $branch->range?->middle() ?? $value;
        }
        // The range it stands in is the one whose middle is nearest.
        usort($middles, static fn (float $one, float $other): int => abs($one - $value) <=> abs($other - $value));
        $here = $middles[0];
        $further = array_filter($middles, static fn (float $middle): bool => $isForward ? $middle > $here : $middle < $here);

        return $further === [] ? $here : ($isForward ? min($further) : max($further));
    }

    /** By the channel of the split. */
    public static function named(Session $session, string $id): string
    {
        $location = $session->locate($id);

        return $location === null ? 'a split' : $location->channel->name;
    }

    /** @return list<string> the split with its branches, and the lane that moves its selector */
    public static function paths(Session $session, string $id): array
    {
        $location = $session->locate($id);

        return $location === null ? [] : [...Branches::within($location->insert), "channels/{$location->channel->id}/automation/selector:{$id}"];
    }

    /** @return list<string> where its branches are open */
    public static function ranges(Session $session, string $id): array
    {
        return array_map(static fn (Branch $branch): string => "branches/{$branch->id}/range", $session->locate($id)?->insert->branches() ?? []);
    }
}
