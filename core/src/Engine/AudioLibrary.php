<?php

declare(strict_types=1);

namespace Hafen\Engine;

use Hafen\Audio\AudioSource;
use Hafen\Audio\UnreadableAudioFile;

/** Opens the audio behind a clip's `file`. */
interface AudioLibrary
{
    /** @throws UnreadableAudioFile when it is not there or broken */
    public function open(string $file): AudioSource;
}
