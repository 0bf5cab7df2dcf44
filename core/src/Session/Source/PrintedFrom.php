<?php

declare(strict_types=1);

namespace Hafen\Session\Source;

/** What a clip was printed from: a tap of a channel, "source", "pre-fader", "post-fader" or "main", as it was in a revision. */
final readonly class PrintedFrom
{
    public const TAPS = ['source', 'pre-fader', 'post-fader', 'main'];

    public function __construct(public int $revision, public string $channel, public string $tap)
    {
    }
}
