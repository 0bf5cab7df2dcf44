<?php

declare(strict_types=1);

namespace Hafen\Session\Source;

/**
 * What comes in at the audio interface just now. No document has it: it stands in what an engine plays while an input is heard, in place
 * of the track's clips, see {@see LiveInput}.
 */
final readonly class LiveSource implements Source
{
    /** @param  string  $port  "in:1", or a pair "in:1-2" */
    public function __construct(public string $port)
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
}
