<?php

declare(strict_types=1);

namespace Hafen\Hardware;

/** What can be plugged into an input of the simulated interface. */
enum PlugKind: string
{
    case Nothing = 'nothing';
    case Voice = 'voice';
    case Guitar = 'guitar';
    case Vibraphone = 'vibraphone';
    case Tone = 'tone';
    case File = 'file';
    case Microphone = 'microphone';
    case Cable = 'cable';
    case Unit = 'unit';

    public function label(): string
    {
        return match ($this) {
            self::Nothing => 'nothing plugged in',
            self::Voice => 'invented singer',
            self::Guitar => 'invented guitarist',
            self::Vibraphone => 'invented vibraphonist',
            self::Tone => 'test tone, 1 kHz',
            self::File => 'a file',
            self::Microphone => "browser's microphone",
            self::Cable => 'a cable',
            self::Unit => 'comes back from a unit',
        };
    }
}
