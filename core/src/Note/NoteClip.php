<?php

declare(strict_types=1);

namespace Hafen\Note;

/** Notes on a note channel, from a start for a length in ticks; what is held at its end, or begins after it, ends there or is not heard. */
final readonly class NoteClip
{
    public const MOST_NOTES = 20_000;

    public const MOST_CONTROLS = 20_000;

    /**
     * @param  list<Note>  $notes  in the order of time, then of keys
     * @param  list<NoteControl>  $controls  in the order of time
     */
    public function __construct(public string $id, public int $start, public int $length, public array $notes = [], public array $controls = [])
    {
    }

    public function end(): int
    {
        return $this->start + $this->length;
    }

    /** @param  list<Note>  $notes  in any order */
    public function withNotes(array $notes): self
    {
        usort($notes, static fn (Note $one, Note $other): int => [$one->at, $one->key] <=> [$other->at, $other->key]);

        return new self($this->id, $this->start, $this->length, $notes, $this->controls);
    }

    /**
     * With other movements of one controller.
     *
     * @param  list<NoteControl>  $controls  of that number, in any order
     */
    public function withControls(int $controller, array $controls): self
    {
        $all = [...array_filter($this->controls, static fn (NoteControl $control): bool => $control->controller !== $controller), ...$controls];
        usort($all, static fn (NoteControl $one, NoteControl $other): int => [$one->at, $one->controller] <=> [$other->at, $other->controller]);

        return new self($this->id, $this->start, $this->length, $this->notes, $all);
    }

    public function withStart(int $start): self
    {
        return new self($this->id, $start, $this->length, $this->notes, $this->controls);
    }

    public function withLength(int $length): self
    {
        return new self($this->id, $this->start, $length, $this->notes, $this->controls);
    }
}
