<?php

declare(strict_types=1);

namespace Hafen\Session\Source;

use Hafen\Note\HeldKeys;
use Hafen\Note\NoteClip;

/**
 * Notes in clips, for the instruments in the rows of a note channel. `held` are keys somebody plays besides while listening, null where nobody
 * does; documents do not hold them.
 */
final readonly class NoteSource implements Source
{
    /** @param  list<NoteClip>  $notes */
    public function __construct(public array $notes = [], public ?HeldKeys $held = null)
    {
    }

    public function clips(): array
    {
        return [];
    }

    public function tapped(): ?TapSource
    {
        return null;
    }

    public function clip(string $id): ?NoteClip
    {
        foreach ($this->notes as $clip) {
            if ($clip->id === $id) {
                return $clip;
            }
        }

        return null;
    }

    /** With a clip of the same id replaced. */
    public function withClip(NoteClip $changed): self
    {
        return new self(array_map(static fn (NoteClip $clip): NoteClip => $clip->id === $changed->id ? $changed : $clip, $this->notes), $this->held);
    }

    /** The tick after the last clip's last. */
    public function end(): int
    {
        return array_reduce($this->notes, static fn (int $end, NoteClip $clip): int => max($end, $clip->end()), 0);
    }
}
