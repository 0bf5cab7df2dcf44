<?php

declare(strict_types=1);

namespace App\Hardware;

use RuntimeException;

/**
 * The line for units of outboard: one sends through a port at a time, and who waits comes in order. Tickets are files in a folder, each locked by
 * the process that holds it: those of processes that are gone count no more.
 */
final readonly class UnitTurns
{
    private const WAITING = '.waiting';

    public const USING = '.using';

    public function __construct(private string $folder)
    {
    }

    /**
     * Stands in line.
     *
     * @param  list<int>  $outputs  that are wanted
     */
    public function want(array $outputs, UnitUse $use): UnitTurn
    {
        if (! is_dir($this->folder)) {
            @mkdir($this->folder, 0o775, true);
        }
        $ticket = sprintf('%s-%020d-%s-%s', $use->value, (int) (microtime(true) * 1e6), bin2hex(random_bytes(4)), implode('_', $outputs));
        // Locked before anybody sees it.
        $unseen = "{$this->folder}/{$ticket}.new";
        $lock = @fopen($unseen, 'c');
        if ($lock === false || ! flock($lock, LOCK_EX) || ! @rename($unseen, "{$this->folder}/{$ticket}".self::WAITING)) {
            throw new RuntimeException("No ticket can be made in {$this->folder}.");
        }

        return new UnitTurn($this, $ticket, $lock, $outputs);
    }

    /**
     * Begins to send, if it is one's turn.
     *
     * @param  list<int>  $ports
     */
    public function begin(string $ticket, array $ports): bool
    {
        // One at a time looks and begins.
        $door = @fopen("{$this->folder}/door", 'c');
        if ($door === false || ! flock($door, LOCK_EX)) {
            return false;
        }
        try {
            foreach ($this->others($ticket, $ports) as $other) {
                if (str_ends_with($other, self::USING) || strcmp($other, $ticket) < 0) {
                    return false;
                }
            }

            return @rename("{$this->folder}/{$ticket}".self::WAITING, "{$this->folder}/{$ticket}".self::USING);
        } finally {
            fclose($door);
        }
    }

    /**
     * @param  list<int>  $ports
     * @return list<string> tickets of others who want one of these ports, or send through it
     */
    public function others(string $ticket, array $ports): array
    {
        $others = [];
        foreach (scandir($this->folder) ?: [] as $name) {
            $isTicket = str_ends_with($name, self::WAITING) || str_ends_with($name, self::USING);
            if ($isTicket && ! str_starts_with($name, $ticket) && array_intersect(self::ports($name), $ports) !== [] && $this->isHeld($name)) {
                $others[] = $name;
            }
        }

        return $others;
    }

    public function leave(string $ticket): void
    {
        @unlink("{$this->folder}/{$ticket}".self::WAITING);
        @unlink("{$this->folder}/{$ticket}".self::USING);
    }

    private function isHeld(string $name): bool
    {
        $lock = @fopen("{$this->folder}/{$name}", 'r');
        if ($lock === false) {
            return false;
        }
        $isFree = flock($lock, LOCK_EX | LOCK_NB);
        if ($isFree) {
            // Whoever had it is gone.
            @unlink("{$this->folder}/{$name}");
        }
        fclose($lock);

        return ! $isFree;
    }

    /** @return list<int> the ports a ticket is for */
    private static function ports(string $name): array
    {
        $parts = explode('-', pathinfo($name, PATHINFO_FILENAME));

        return array_map(intval(...), explode('_', $parts[3] ?? ''));
    }
}
