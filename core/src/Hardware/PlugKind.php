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
    case Cable = 'cable';
}
