<?php

declare(strict_types=1);

namespace App\Media;

use Hafen\Refusal;

/** There is not the room on the disk that something needs. */
final class DiskFull extends Refusal
{
    public static function wouldBe(string $name, int $bytes, int $free, int $reserve): self
    {
        return new self('disk', sprintf(
            '%s needs %s on the disk and %s are free; %s are kept for edits. Remove what is not used under Storage, or make room elsewhere.',
            $name,
            self::size($bytes),
            self::size($free),
            self::size($reserve),
        ));
    }

    public static function now(): self
    {
        return new self('disk', 'The disk is full: nothing was stored. Make room and try again.');
    }

    private static function size(int $bytes): string
    {
        return match (true) {
            $bytes >= 1e9 => sprintf('%.1f GB', $bytes / 1e9),
            $bytes >= 1e6 => sprintf('%.1f MB', $bytes / 1e6),
            default => sprintf('%d kB', (int) ceil($bytes / 1e3)),
        };
    }
}
