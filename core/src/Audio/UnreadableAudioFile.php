<?php

declare(strict_types=1);

namespace Hafen\Audio;

use Hafen\Refusal;

/** An audio file that is missing, broken, or not what it says it is. */
final class UnreadableAudioFile extends Refusal
{
    public static function missing(string $path): self
    {
        return new self($path, 'There is no readable file here.');
    }

    public static function empty(string $path): self
    {
        return new self($path, 'The file is empty (0 bytes).');
    }

    public static function notWave(string $path, string $found): self
    {
        return new self($path, "Not a WAV file: byte 0 should start \"RIFF\" or \"RF64\", found \"{$found}\".");
    }

    public static function at(string $path, int $byte, string $what): self
    {
        return new self($path, "{$what} (at byte {$byte}).");
    }

    public static function gone(string $path): self
    {
        return new self($path, 'The file ended or vanished while it was being read.');
    }

    public static function altered(string $path): self
    {
        return new self($path, 'The file is named by the SHA-256 of its bytes and has another: it was altered.');
    }

    public static function noFreeze(string $path, int $sampleRate, int $channels, int $wanted): self
    {
        return new self($path, "A frozen channel needs a mono or stereo file at {$wanted} Hz; this one has {$channels} channels at {$sampleRate} Hz.");
    }
}
