<?php

declare(strict_types=1);

namespace Hafen\Engine;

use Hafen\Audio\Block;
use Hafen\Audio\Samples;
use Hafen\Routing\SumBanks;

/** A sum of what feeds a bus, or of a part of it, in the order of {@see SumBanks}. */
final readonly class PartialSum implements Contribution
{
    /** @param  non-empty-list<Contribution>  $contributions */
    private function __construct(private array $contributions)
    {
    }

    /**
     * Sums some banks.
     *
     * @param  array<int, list<Contribution>>  $banks  what feeds the bus, by bank
     * @param  array<string, Contribution>  $elsewhere  sums of some banks that another process makes, by {@see key()}
     * @return ?Contribution null where nothing is summed; what is alone stays as it is
     */
    public static function of(array $banks, array $elsewhere = [], int $first = 0, int $count = SumBanks::COUNT): ?Contribution
    {
        if (isset($elsewhere[self::key($first, $count)])) {
            return $elsewhere[self::key($first, $count)];
        }
        if ($count === 1) {
            $contributions = $banks[$first] ?? [];
        } else {
            $each = intdiv($count, SumBanks::AT_A_TIME);
            $contributions = [];
            for ($bank = $first; $bank < $first + $count; $bank += $each) {
                $sum = self::of($banks, $elsewhere, $bank, $each);
                if ($sum !== null) {
                    $contributions[] = $sum;
                }
            }
        }

        return self::together($contributions);
    }

    /**
     * @param  list<Contribution>  $contributions
     * @return ?Contribution null where there are none; what is alone stays as it is
     */
    public static function together(array $contributions): ?Contribution
    {
        return count($contributions) > 1 ? new self($contributions) : $contributions[0] ?? null;
    }

    /** Names a range of banks that is summed. */
    public static function key(int $first, int $count): string
    {
        return "{$first}+{$count}";
    }

    public function parts(int $position, int $frames): ?array
    {
        $block = self::sum($this->contributions, $position, $frames);

        return $block->isSilent ? null : [[$block->left, 1.0], $block->mono ? null : [$block->right, 1.0]];
    }

    /**
     * Sums contributions; those that are equal on both sides are summed once.
     *
     * @param  list<Contribution>  $contributions
     */
    public static function sum(array $contributions, int $position, int $frames): Block
    {
        $both = $left = $right = [];
        foreach ($contributions as $contribution) {
            $parts = $contribution->parts($position, $frames);
            if ($parts === null) {
                continue;
            }
            if ($parts[1] === null) {
                $both[] = $parts[0];
            } else {
                $left[] = $parts[0];
                $right[] = $parts[1];
            }
        }
        if ($both === [] && $left === []) {
            return Block::silent($frames);
        }
        $common = Samples::addAllScaled(array_fill(0, $frames, 0.0), $both);

        return $left === [] ? Block::mono($common) : new Block(Samples::addAllScaled($common, $left), Samples::addAllScaled($common, $right));
    }
}
