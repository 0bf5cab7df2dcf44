<?php

declare(strict_types=1);

namespace App\Media;

use Hafen\Audio\AudioSource;
use Hafen\Audio\UnreadableAudioFile;
use Hafen\Audio\WavReader;
use Hafen\Engine\AudioLibrary;

/** The sound behind a media id: at the session's rate where it was prepared, else as it was imported. */
final readonly class MediaLibrary implements AudioLibrary
{
    public function __construct(private MediaFolder $folder, private int $sampleRate)
    {
    }

    public function open(string $file): AudioSource
    {
        // The id of a medium, never a path.
        if (preg_match('/^[A-Za-z0-9]{1,64}$/D', $file) !== 1) {
            throw UnreadableAudioFile::missing($file);
        }
        $prepared = $this->folder->atRate($file, $this->sampleRate);
        if (is_file($prepared)) {
            return WavReader::open($prepared);
        }

        return WavReader::open($this->folder->asImported($file) ?? throw UnreadableAudioFile::missing($file));
    }
}
