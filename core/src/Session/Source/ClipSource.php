<?php

declare(strict_types=1);

namespace Hafen\Session\Source;

/** Clips on a track; where they overlap they add up. What comes in at its input is recorded into more of them. */
final readonly class ClipSource implements Source
{
    /** @param  list<Clip>  $clips */
    public function __construct(public array $clips = [], public ?LiveInput $input = null)
    {
    }

    /**
     * The same track, with other clips.
     *
     * @param  list<Clip>  $clips
     */
    public function withClips(array $clips): self
    {
        return new self($clips, $this->input);
    }

    /** The same clips, with another input; null is none. */
    public function withInput(?LiveInput $input): self
    {
        return new self($this->clips, $input);
    }

    public function clips(): array
    {
        return $this->clips;
    }

    public function tapped(): ?TapSource
    {
        return null;
    }

    /** Sample after the last clip's last. */
    public function end(): int
    {
        return array_reduce($this->clips, static fn (int $end, Clip $clip): int => max($end, $clip->end()), 0);
    }
}
