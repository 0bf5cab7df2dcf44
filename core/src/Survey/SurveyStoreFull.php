<?php

declare(strict_types=1);

namespace Hafen\Survey;

use Hafen\Refusal;

/** Measurements cannot be kept: no place on the disk, or what was kept is gone. */
final class SurveyStoreFull extends Refusal
{
    public static function cannotWrite(string $folder): self
    {
        return new self($folder, 'Measurements cannot be written here: the disk is full or the folder is closed to Hafen. Make room, then measure again.');
    }

    public static function gone(string $path): self
    {
        return new self($path, 'A measurement was taken away while it was needed. Measure again.');
    }

    public static function reserve(string $folder, int $reserve): self
    {
        return new self($folder, sprintf('What was captured cannot be kept: %d MB of the disk are left free for edits. Make room and measure again.', intdiv($reserve, 1_000_000)));
    }
}
