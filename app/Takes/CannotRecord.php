<?php

declare(strict_types=1);

namespace App\Takes;

use Hafen\Refusal;

/** A channel that nothing can be recorded on. */
final class CannotRecord extends Refusal
{
    public static function noTrack(string $name): self
    {
        return new self('record', "Nothing can be recorded on {$name}: choose a track that plays clips, or an empty one.");
    }

    public static function noInput(string $name): self
    {
        return new self('record', "{$name} takes no input. Choose one for it first.");
    }

    public static function noRoom(string $folder): self
    {
        return new self('record', "Nothing can be written in {$folder}: is the disk full? Make room, and record again.");
    }

    public static function goOn(Refusal $why): self
    {
        return new self('record', "The recording stopped, and what was recorded until then is kept. {$why->getMessage()}");
    }

    public static function frozen(string $name): self
    {
        return new self('record', "{$name} is frozen. Unfreeze it, or record on another track.");
    }
}
