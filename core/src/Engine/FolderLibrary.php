<?php

declare(strict_types=1);

namespace Hafen\Engine;

use Hafen\Audio\AudioSource;
use Hafen\Audio\WavReader;

/** Files relative to a folder: how a document on disk names its sound. */
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
