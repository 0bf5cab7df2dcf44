<?php

declare(strict_types=1);

namespace App\Media;

/** Refuses what would fill the disk, while there is still room for edits. */
final readonly class DiskRoom
{
    /** @param  int  $reserve  bytes that stay free for edits */
    public function __construct(private string $folder, public int $reserve)
    {
    }

    /** Bytes that uploads, imports, renders and surveys may still take. */
    public function free(): int
    {
        $folder = $this->folder;
        while (! is_dir($folder) && dirname($folder) !== $folder) {
            $folder = dirname($folder);
        }

        return max(0, (int) @disk_free_space($folder) - $this->reserve);
    }

    /**
     * @param  string  $name  of what needs it
     *
     * @throws DiskFull when so many bytes are not free
     */
    public function need(int $bytes, string $name): void
    {
        $free = $this->free();
        if ($bytes > $free) {
            throw DiskFull::wouldBe($name, $bytes, $free, $this->reserve);
        }
    }
}
