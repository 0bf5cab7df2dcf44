<?php

declare(strict_types=1);

namespace Hafen\Engine;

use Hafen\Audio\AudioSource;
use Hafen\Audio\UnreadableAudioFile;

/** Opens the audio behind a clip's `file`. It is serialised for other processes of the engine, so it holds nothing that is open. */
interface AudioLibrary
{
    /** @throws UnreadableAudioFile when it is not there or broken */
    public function open(string $file): AudioSource;
}
