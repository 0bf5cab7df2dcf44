<?php

declare(strict_types=1);

namespace App\Sessions;

use Hafen\Refusal;

/** A session with its files that cannot be packed, or opened. */
final class BundleRefused extends Refusal
{
    public static function notAZip(string $name): self
    {
        return new self($name, 'It is not a ZIP, or it is damaged. Sessions are opened from what "Download with its files" gave.');
    }

    public static function noDocument(string $name, string $document): self
    {
        return new self($name, "There is no {$document} in it.");
    }

    public static function documentTooLarge(string $name, int $bytes, int $most): self
    {
        return new self($name, "Its session.json has {$bytes} bytes; at most {$most} are read.");
    }

    public static function tooManyFiles(string $name, int $count, int $most): self
    {
        return new self($name, "Its session names {$count} files; at most {$most} are taken.");
    }

    public static function brokenFile(string $file): self
    {
        return new self($file, 'It cannot be unpacked: the ZIP is damaged. Nothing was opened.');
    }

    public static function cannotWrite(string $name): self
    {
        return new self($name, 'It could not be packed: the file cannot be written. Is the disk full?');
    }
}
