<?php

declare(strict_types=1);

namespace Hafen\Session\Source;

use Hafen\Note\NoteClip;

/** Notes in clips, for the instruments in the rows of a note channel. */
final readonly class NoteSource implements Source
{
    public const MOST_CLIPS = 1000;

    /**
     * @param  list<NoteClip>  $notes
     * @param  bool  $isPlayed  whether somebody plays its keys while nothing else sounds; documents do not hold it
     */
    public function __construct(public array $notes = [], public bool $isPlayed = false)
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
        return new self(array_map(static fn (NoteClip $clip): NoteClip => $clip->id === $changed->id ? $changed : $clip, $this->notes), $this->isPlayed);
    }

    /** The first clip a tick lies in; null where there is none. */
    public function clipAt(int $tick): ?NoteClip
    {
        foreach ($this->notes as $clip) {
            if ($tick >= $clip->start && $tick < $clip->end()) {
                return $clip;
            }
        }

        return null;
    }

    /** With a clip added, or put in place of the one of its id. */
    public function withAdded(NoteClip $added): self
    {
        $clips = [...array_values(array_filter($this->notes, static fn (NoteClip $clip): bool => $clip->id !== $added->id)), $added];
        usort($clips, static fn (NoteClip $one, NoteClip $other): int => [$one->start, $one->id] <=> [$other->start, $other->id]);

        return new self($clips, $this->isPlayed);
    }

    /** The tick after the last clip's last. */
    public function end(): int
    {
        return array_reduce($this->notes, static fn (int $end, NoteClip $clip): int => max($end, $clip->end()), 0);
    }
}
