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

    public static function finished(string $name): self
    {
        return new self('upload', "{$name} was finished by another request already.");
    }

    public static function kind(string $name): self
    {
        return new self($name, 'Files of this kind are not read. WAV, FLAC, AIFF, MP3, AAC, M4A, OGG, Opus, WavPack and CAF are; playlists are not.');
    }

    public static function tooLong(string $name, float $seconds): self
    {
        return new self($name, sprintf('It says it lasts %.0f s; at most a day is read.', $seconds));
    }

    public static function growsTooMuch(string $name, int $bytes, int $grown): self
    {
        return new self($name, sprintf('%d kB that would become %d MB of sound: that is hardly music, and it is not read.', intdiv($bytes, 1000), intdiv($grown, 1_000_000)));
    }

    public static function tookTooLong(string $name, int $seconds): self
    {
        return new self($name, "Decoding was stopped after {$seconds} s, far longer than the length the file declares needs.");
    }

    public static function bodyTooLarge(string $name, int $bytes): self
    {
        return new self('piece', "{$name} was announced with {$bytes} bytes; this piece goes past its end. It was not read.");
    }
}
