<?php

declare(strict_types=1);

namespace Hafen\Routing;

use Hafen\Session\Insert\Branch;
use Hafen\Session\Insert\Insert;
use Hafen\Session\Insert\ProcessorInsert;
use Hafen\Session\Insert\Split;
use Hafen\Session\Insert\SplitBy;

/**
 * How much louder the branches of a split are together than what went in, if each lets it through as it is.
 *
 * Source: 20 log10 of the sum of their gains; two equal ones add 6.02 dB.
 */
final readonly class BranchSum
{
    /**
     * @param  ?float  $rise  dB; null where the branches carry different parts, a selector chooses between them, notes go in, or they are silent or cancel each other
     * @param  bool  $equal  whether they carry exactly the same, two or more of them
     */
    private function __construct(public ?float $rise, public bool $equal)
    {
    }

    /** @param  bool  $isPlayed  whether notes go in, see {@see NoteReach}: these have no level to keep, and branches may play different ones */
    public static function of(Split $split, bool $isPlayed = false): self
    {
        $heard = array_values(array_filter($split->branches, static fn (Branch $branch): bool => $split->isHeard($branch) && $branch->gain !== null));
        if ($split->by !== SplitBy::Copies || $split->selector !== null || $isPlayed || $heard === []) {
            return new self(null, false);
        }
        $sum = array_sum(array_map(static fn (Branch $branch): float => 10.0 ** (($branch->gain ?? -INF) / 20.0) * ($branch->invert ? -1.0 : 1.0), $heard));
        $chains = array_map(static fn (Branch $branch): string => serialize([self::working($branch->inserts), $branch->pan]), $heard);

        return new self(
            abs($sum) < 1e-6 ? null : 20.0 * log10(abs($sum)),
            count($heard) > 1 && count(array_unique($chains)) === 1,
        );
    }

    /**
     * What the inserts of a branch do, apart from who they are.
     *
     * @param  list<Insert>  $inserts
     * @return list<mixed>
     */
    private static function working(array $inserts): array
    {
        $working = [];
        foreach ($inserts as $insert) {
            if ($insert instanceof ProcessorInsert && $insert->on && $insert->mix > 0.0) {
                $parameters = $insert->parameters;
                ksort($parameters);
                $working[] = [$insert->processor, $insert->mix, $parameters];
            } elseif ($insert instanceof Split && $insert->on) {
                $working[] = [$insert->by, $insert->crossovers, array_map(
                    static fn (Branch $branch): array => [$branch->gain, $branch->pan, $branch->invert, $insert->isHeard($branch), self::working($branch->inserts)],
                    $insert->branches,
                )];
            }
        }

        return $working;
    }
}
