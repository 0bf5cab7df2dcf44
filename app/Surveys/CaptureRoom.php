<?php

declare(strict_types=1);

namespace App\Surveys;

use App\Media\DiskRoom;
use App\Media\MediaFolder;

/**
 * How much measurements and captured audio may take. What is captured saves measuring again up to the faders, so they get a good part of the disk: what is
 * captured of 60 stereo channels of 4 minutes is 11 GB.
 */
final readonly class CaptureRoom
{
    /** Seconds for which what was captured stays, whatever its size: others may be about to read it. */
    public const SPARE = 900;

    /** Part of what is free, or is theirs already. */
    private const PART = 0.3;

    private const MOST = 32 << 30;

    /** @param  ?int  $set  bytes, where somebody set them */
    public function __construct(private DiskRoom $room, private MediaFolder $folder, private ?int $set)
    {
    }

    public function bytes(): int
    {
        return $this->set ?? min(self::MOST, (int) (self::PART * ($this->room->free() + $this->folder->size('surveys'))));
    }
}
