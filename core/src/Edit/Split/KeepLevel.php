<?php

declare(strict_types=1);

namespace Hafen\Edit\Split;

use Hafen\Audio\Decibel;
use Hafen\Edit\Edit;
use Hafen\Edit\Refusals\NothingAddsUp;
use Hafen\Routing\BranchSum;
use Hafen\Session\Insert\Branch;
use Hafen\Session\Insert\Split;
use Hafen\Session\Session;

/** Turns the branches of a split down, all by the same, so that equal ones add up to the level that went in. */
final readonly class KeepLevel implements Edit
{
    public function __construct(public string $split)
    {
    }

    public function apply(Session $session): Session
    {
        [$location, $split] = Branches::split($session, $this->split);
        $by = -self::rise($split);

        return $session->withInsert($location, $split->withBranches(array_map(
            static fn (Branch $branch): Branch => $branch->gain === null ? $branch : $branch->withGain(round(max(-120.0, min(24.0, $branch->gain + $by)), 4)),
            $split->branches,
        )));
    }

    public function label(Session $before): string
    {
        $split = $before->locate($this->split)?->insert;

        return 'Branches '.($split instanceof Split ? Decibel::text(-self::rise($split), 'dB', true) : '').' to keep the level';
    }

    public function touches(Session $before): array
    {
        $split = $before->locate($this->split)?->insert;

        return [
            "inserts/{$this->split}/branches",
            ...($split instanceof Split ? Branches::paths(array_map(static fn (Branch $branch): string => $branch->id, $split->branches), 'gain') : []),
        ];
    }

    private static function rise(Split $split): float
    {
        return BranchSum::of($split)->rise ?? throw NothingAddsUp::here();
    }
}
