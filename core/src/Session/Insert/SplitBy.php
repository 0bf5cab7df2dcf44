<?php

declare(strict_types=1);

namespace Hafen\Session\Insert;

/** What each branch of a split gets. */
enum SplitBy: string
{
    /** The whole sound, as many times as there are branches. */
    case Copies = 'copies';
    /** A band each, from low to high. */
    case Frequency = 'frequency';
    /** The left side, the right side. */
    case LeftRight = 'left-right';
    /** What both sides share, and what they differ in. */
    case MidSide = 'mid-side';

    /** Fewest branches. */
    public function fewest(): int
    {
        return $this === self::Copies ? 1 : 2;
    }

    public function most(): int
    {
        return match ($this) {
            self::Copies => 16,
            self::Frequency => 4,
            self::LeftRight, self::MidSide => 2,
        };
    }

    /**
     * What new branches are called.
     *
     * @return list<string>
     */
    public function names(int $branches): array
    {
        return match ($this) {
            self::Copies => array_map(static fn (int $n): string => $n === 1 ? 'Dry' : 'Branch '.$n, range(1, $branches)),
            self::Frequency => [2 => ['Low', 'High'], 3 => ['Low', 'Mid', 'High'], 4 => ['Low', 'Low mid', 'High mid', 'High']][$branches] ?? ['Low', 'High'],
            self::LeftRight => ['Left', 'Right'],
            self::MidSide => ['Mid', 'Side'],
        };
    }
}
