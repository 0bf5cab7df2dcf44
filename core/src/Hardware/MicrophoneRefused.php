<?php

declare(strict_types=1);

namespace Hafen\Hardware;

use Hafen\Refusal;

/** A piece of a microphone's sound that was not taken. */
final class MicrophoneRefused extends Refusal
{
    public static function takenOver(): self
    {
        return new self('microphone', 'Another window uses the microphone at this input now. Open it here again to take it over.');
    }

    public static function notWritten(): self
    {
        return new self('microphone', 'What the microphone hears cannot be kept: the data folder is full, or not writable.');
    }

    public static function notPlugged(int $port): self
    {
        return new self('microphone', "No microphone is plugged into input {$port}.");
    }
}
