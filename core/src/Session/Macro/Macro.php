<?php

declare(strict_types=1);

namespace Hafen\Session\Macro;

use Hafen\Session\Copies;

/** One control for many of a channel: a knob, or a switch that is at one of its ends. */
final readonly class Macro
{
    use Copies;

    public const MOST = 64;

    public const MOST_MOVES = 256;

    /**
     * @param  float  $value  0 to 1
     * @param  list<MacroMove>  $moves  one for each control
     */
    public function __construct(public string $id, public string $name, public bool $isSwitch = false, public float $value = 0.0, public array $moves = [])
    {
    }

    public function move(MacroTarget $target): ?MacroMove
    {
        foreach ($this->moves as $move) {
            if ($move->target == $target) {
                return $move;
            }
        }

        return null;
    }

    /** @return list<MacroTarget> what it moves */
    public function targets(): array
    {
        return array_map(static fn (MacroMove $move): MacroTarget => $move->target, $this->moves);
    }

    public function withId(string $id): self
    {
        return $this->copy(id: $id);
    }

    /** @param  list<MacroMove>  $moves */
    public function withMoves(array $moves): self
    {
        return $this->copy(moves: $moves);
    }

    public function withName(string $name): self
    {
        return $this->copy(name: $name);
    }

    public function withValue(float $value): self
    {
        return $this->copy(value: $value);
    }

    /** With a control moved otherwise, or one more. */
    public function withMove(MacroMove $changed): self
    {
        return $this->move($changed->target) === null
            ? $this->copy(moves: [...$this->moves, $changed])
            : $this->copy(moves: array_map(static fn (MacroMove $move): MacroMove => $move->target == $changed->target ? $changed : $move, $this->moves));
    }

    /** @param  callable(MacroTarget): bool  $isKept */
    public function keeping(callable $isKept): self
    {
        $moves = array_values(array_filter($this->moves, static fn (MacroMove $move): bool => $isKept($move->target)));

        return count($moves) === count($this->moves) ? $this : $this->copy(moves: $moves);
    }
}
