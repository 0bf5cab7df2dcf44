<?php

declare(strict_types=1);

namespace Hafen\Audio;

use Hafen\Refusal;

/** A file that cannot be written: no place for it, or the disk is full. */
final class UnableToWriteAudioFile extends Refusal
{
    public static function open(string $path): self
    {
        return new self($path, 'The file cannot be created here. Choose another folder or check its permissions.');
    }

    public static function write(string $path, int $written): self
    {
        return new self($path, "Writing stopped after {$written} bytes: the disk is full or the file was taken away.");
    }
}
