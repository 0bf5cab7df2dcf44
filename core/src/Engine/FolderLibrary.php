<?php

declare(strict_types=1);

namespace Hafen\Engine;

use Hafen\Audio\AudioSource;
use Hafen\Audio\WavReader;

/** Opens audio files by a path relative to a folder, as documents on disk name them. */
final readonly class FolderLibrary implements AudioLibrary
{
    public function __construct(private string $folder)
    {
    }

    public function open(string $file): AudioSource
    {
        return WavReader::open(str_starts_with($file, '/') ? $file : $this->folder.'/'.$file);
    }
}
