<?php

declare(strict_types=1);

namespace Hafen\Session\Source;

/** Clips on a track; where they overlap they add up. */
final readonly class ClipSource implements Source
{
    /** @param  list<Clip>  $clips */
    public function __construct(public array $clips = [])
    {
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
