<?php

declare(strict_types=1);

namespace Hafen\Edit\Refusals;

use Hafen\Edit\EditRefused;

/** A file for a channel that sums others. */
final class OnlyTracksCarryClips extends EditRefused
{
    public static function not(string $name): self
    {
        return new self('clips', "{$name} sums what feeds it. Files go on tracks.");
    }
}
