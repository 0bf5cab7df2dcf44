<?php

declare(strict_types=1);

namespace App\Hardware;

/** One process's place in the line for ports of the audio interface, see {@see UnitTurns}. */
final class UnitTurn
{
    private bool $isUsing = false;

    /**
     * @param  resource  $lock  on the ticket: it ends with its process, however that ends
     * @param  list<int>  $ports  outputs that are wanted
     */
    public function __construct(private readonly UnitTurns $line, private readonly string $ticket, private $lock, private readonly array $ports)
    {
    }

    /** Whether it may send now: nobody else does, and nobody who comes first wants to. From then on nobody else may. */
    public function isMine(): bool
    {
        return $this->isUsing = $this->isUsing || $this->line->begin($this->ticket, $this->ports);
    }

    /** Whether somebody waits for it who comes before what is measured by itself. */
    public function isWanted(): bool
    {
        foreach ($this->line->others($this->ticket, $this->ports) as $other) {
            if (! str_starts_with($other, UnitUse::Background->value) && ! str_ends_with($other, UnitTurns::USING)) {
                return true;
            }
        }

        return false;
    }

    /** Lets the next have it. */
    public function release(): void
    {
        if (is_resource($this->lock)) {
            $this->line->leave($this->ticket);
            fclose($this->lock);
        }
    }
}
