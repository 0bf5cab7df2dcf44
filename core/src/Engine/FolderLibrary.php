<?php

declare(strict_types=1);

namespace Hafen\Engine;

use Hafen\Audio\AudioSource;
use Hafen\Audio\UnreadableAudioFile;
use Hafen\Audio\WavReader;

/**
 * Opens audio files by a path relative to a folder, as documents on disk name them. A file that is named by the SHA-256 of its
 * bytes, as freezes are, is checked against it.
 */
final readonly class FolderLibrary implements AudioLibrary
{
    public function __construct(private string $folder)
    {
    }

    public function open(string $file): AudioSource
    {
        $path = str_starts_with($file, '/') ? $file : $this->folder.'/'.$file;
        if (preg_match('#(^|/)([0-9a-f]{64})\.wav$#D', $path, $name) === 1 && is_file($path) && hash_file('sha256', $path) !== $name[2]) {
            throw UnreadableAudioFile::altered($path);
        }

        return WavReader::open($path);
    }
}
