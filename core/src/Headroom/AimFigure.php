<?php

declare(strict_types=1);

namespace Hafen\Headroom;

/** What of the main an aim is set for. */
enum AimFigure: string
{
    case Peak = 'peak';
    case TruePeak = 'true-peak';
    case Loudness = 'loudness';

    public function unit(): string
    {
        return match ($this) {
            self::Peak => 'dBFS',
            self::TruePeak => 'dBTP',
            self::Loudness => 'LUFS',
        };
    }
}
