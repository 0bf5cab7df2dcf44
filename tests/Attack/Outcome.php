<?php

declare(strict_types=1);

namespace Tests\Attack;

/** What one kind of attack tried and what it broke. */
final class Outcome
{
    public int $tried = 0;

    /** @var array<string, int> how often: "lost", "stuck", "wrong", "faults" (500 and the like) */
    public array $broken = ['lost' => 0, 'stuck' => 0, 'wrong' => 0, 'faults' => 0];

    /** @var array<string, int> what else is worth knowing */
    public array $notes = [];

    /** @var list<string> the first few, to find them by */
    public array $examples = [];

    public function __construct(public readonly string $name)
    {
    }

    public function tried(int $count = 1): void
    {
        $this->tried += $count;
    }

    public function note(string $what, int $count = 1): void
    {
        $this->notes[$what] = ($this->notes[$what] ?? 0) + $count;
    }

    public function broke(string $kind, string $example): void
    {
        ++$this->broken[$kind];
        if (count($this->examples) < 8) {
            $this->examples[] = "{$kind}: ".mb_strimwidth($example, 0, 500, '…');
        }
    }

    public function isClean(): bool
    {
        return array_sum($this->broken) === 0;
    }

    /** A row of the table in docs/reliability.md. */
    public function row(): string
    {
        $notes = implode(', ', array_map(static fn (string $what, int $count): string => "{$count} {$what}", array_keys($this->notes), $this->notes));

        return "| {$this->name} | ".implode(' | ', [$this->tried, ...array_values($this->broken)])." | {$notes} |";
    }
}
