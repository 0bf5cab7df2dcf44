<?php

declare(strict_types=1);

namespace Hafen\Session;

use Hafen\Session\Insert\Branch;
use Hafen\Session\Insert\Insert;

/** Hands out ids that are not taken in a session: "i" and a number for inserts, "s" splits, "b" branches, "n" sends, "m" macros, "w" sound switches, "k" sounds, "l" hardware loops. */
final class FreshIds
{
    /** @var array<string, string> ids of copies by what was copied */
    private array $copies = [];

    /**
     * @param  array<string, int>  $highest  number in use by letter
     * @param  array<string, true>  $taken  all ids there are
     */
    private function __construct(private array $highest, private readonly array $taken)
    {
    }

    public static function of(Session $session): self
    {
        $ids = [];
        foreach ($session->channels as $channel) {
            foreach ($channel->allInserts() as $insert) {
                $ids[] = $insert->id();
                foreach ($insert->branches() as $branch) {
                    $ids[] = $branch->id;
                }
            }
            foreach ($channel->sends as $send) {
                $ids[] = $send->id;
            }
            foreach ($channel->macros as $macro) {
                $ids[] = $macro->id;
            }
            foreach ($channel->sounds as $switch) {
                $ids[] = $switch->id;
                foreach ($switch->sounds as $sound) {
                    $ids[] = $sound->id;
                }
            }
        }
        foreach ($session->loops as $loop) {
            $ids[] = $loop->id;
        }
        $highest = [];
        foreach ($ids as $id) {
            if (preg_match('/^([a-z])(\d{1,9})$/', $id, $found) === 1) {
                $highest[$found[1]] = max($highest[$found[1]] ?? 0, (int) $found[2]);
            }
        }

        return new self($highest, array_fill_keys($ids, true));
    }

    public function insert(): string
    {
        return $this->next('i');
    }

    public function split(): string
    {
        return $this->next('s');
    }

    public function branch(): string
    {
        return $this->next('b');
    }

    public function loop(): string
    {
        return $this->next('l');
    }

    public function macro(): string
    {
        return $this->next('m');
    }

    public function soundSwitch(): string
    {
        return $this->next('w');
    }

    public function sound(): string
    {
        return $this->next('k');
    }

    public function send(): string
    {
        return $this->next('n');
    }

    /** @return array<string, string> ids of the copies made so far, by what was copied */
    public function copies(): array
    {
        return $this->copies;
    }

    /** A copy of an insert, and of all that is in it, under new ids. */
    public function copyOf(Insert $insert): Insert
    {
        $id = $this->copies[$insert->id()] = $insert->branches() === [] ? $this->insert() : $this->split();

        return $insert->withId($id)->withEachBranch($this->copyOfBranch(...));
    }

    public function copyOfBranch(Branch $branch): Branch
    {
        $id = $this->copies[$branch->id] = $this->branch();

        return $branch->withId($id)->withInserts(array_map($this->copyOf(...), $branch->inserts));
    }

    private function next(string $letter): string
    {
        do {
            $number = $this->highest[$letter] = ($this->highest[$letter] ?? 0) + 1;
        } while (isset($this->taken["{$letter}{$number}"]));

        return "{$letter}{$number}";
    }
}
