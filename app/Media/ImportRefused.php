<?php

declare(strict_types=1);

namespace App\Media;

use Hafen\Refusal;

/** A file that cannot be imported. */
final class ImportRefused extends Refusal
{
    public static function tooLarge(string $name, int $bytes, int $most): self
    {
        return new self('bytes', "{$name} has {$bytes} bytes; at most {$most} are taken.");
    }

    public static function gap(string $name, int $received, int $offset): self
    {
        return new self('offset', "The next piece of {$name} starts at byte {$received}, not {$offset}. Send from there.");
    }

    public static function tooMuch(string $name, int $bytes): self
    {
        return new self('piece', "{$name} was announced with {$bytes} bytes; this piece goes past its end.");
    }

    public static function incomplete(string $name, int $received, int $bytes): self
    {
        return new self('bytes', "{$received} of {$bytes} bytes of {$name} have arrived. Send the rest first.");
    }

    public static function noDecoder(string $name): self
    {
        return new self($name, 'Only WAV files can be read here: ffmpeg, which reads the others, is not installed.');
    }

    public static function notSound(string $name, string $reason): self
    {
        return new self($name, "No sound could be read from it: {$reason}");
    }

    public static function diskFull(string $name): self
    {
        return new self($name, 'The piece could not be stored: the disk is full. What has arrived is kept; make room and send the rest.');
    }
}
