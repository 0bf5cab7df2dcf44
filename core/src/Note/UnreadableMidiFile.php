<?php

declare(strict_types=1);

namespace Hafen\Note;

use Hafen\Refusal;

/** A MIDI file that is broken, or of a kind that is not read; it says at which byte. */
final class UnreadableMidiFile extends Refusal
{
    public static function at(int $byte, string $what): self
    {
        return new self('', "Not a MIDI file that can be read: at byte {$byte} {$what}.");
    }

    public static function tooLarge(int $bytes, int $most): self
    {
        return new self('', "The MIDI file has {$bytes} bytes; {$most} are allowed.");
    }
}
