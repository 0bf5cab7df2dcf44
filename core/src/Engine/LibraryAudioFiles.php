<?php

declare(strict_types=1);

namespace Hafen\Engine;

use Hafen\Audio\Resampler;
use Hafen\Audio\UnreadableAudioFile;
use Hafen\Processor\AudioFiles;

/** Gives processors access to the audio files of a library. */
final readonly class LibraryAudioFiles implements AudioFiles
{
    public function __construct(private AudioLibrary $library)
    {
    }

    public function has(string $file): bool
    {
        try {
            $this->library->open($file);
        } catch (UnreadableAudioFile) {
            return false;
        }

        return true;
    }

    public function read(string $file, int $sampleRate, int $longest): ?array
    {
        if ($file === '') {
            return null;
        }
        try {
            $source = Resampler::to($this->library->open($file), $sampleRate);
            $sides = array_slice($source->read(0, min($source->frames(), $longest)), 0, 2);
        } catch (UnreadableAudioFile) {
            return null;
        }

        return [$sides[0], $sides[1] ?? $sides[0]];
    }
}
