<?php

declare(strict_types=1);

namespace Hafen\Session\Source;

/**
 * What a clip was printed from: a tap of a channel, "source", "pre-fader", "post-fader" or "main", as it was in a revision; the print may hold
 * other channels with it.
 */
final readonly class PrintedFrom
{
    public const TAPS = ['source', 'pre-fader', 'post-fader', 'main'];

    /** @param  list<string>  $with  ids of the other channels */
    public function __construct(public int $revision, public string $channel, public string $tap, public array $with = [])
    {
    }

    /** @return non-empty-list<string> ids */
    public function channels(): array
    {
        return [$this->channel, ...$this->with];
    }
}
