<?php

declare(strict_types=1);

namespace Hafen\Session\Channel;

/**
 * A channel plays a file in place of everything up to its fader. Sample 0 of the file is sample 0 of the session.
 *
 * `hash` is the content hash of what was frozen: the freeze is stale when the channel no longer has it. `tail` is what
 * was asked for: seconds after the session's end, or null for as long as the sound can be heard.
 */
final readonly class Frozen
{
    public function __construct(public string $file, public string $hash, public ?float $tail = null)
    {
    }

    public function withFile(string $file, string $hash): self
    {
        return new self($file, $hash, $this->tail);
    }
}
