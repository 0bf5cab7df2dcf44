<?php

declare(strict_types=1);

namespace Hafen\Edit\Channel;

use Hafen\Session\Channel\Width;
use Hafen\Session\Source\Clip;

/** A file to put on a track: its reference, its length in samples at the session rate, and its width. */
final readonly class NewFile
{
    public function __construct(public string $file, public int $length, public Width $width, public int $start = 0, public int $clipped = 0)
    {
    }

    public function clip(): Clip
    {
        return new Clip('k1', $this->file, $this->start, 0, $this->length, clipped: $this->clipped);
    }
}
