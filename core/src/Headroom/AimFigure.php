<?php

declare(strict_types=1);

namespace Hafen\Headroom;

/** What of the main an aim is set for. */
enum AimFigure: string
{
    case Peak = 'peak';
    case TruePeak = 'true-peak';
    case Loudness = 'loudness';

    /** Where mixes aim at first. Practice: peaks of -6, loudness well below what is delivered. */
    public function usualLevel(): float
    {
        return $this === self::Loudness ? -20.0 : -6.0;
    }

    public function label(): string
    {
        return match ($this) {
            self::Peak => 'main peak',
            self::TruePeak => 'main true peak',
            self::Loudness => 'main loudness',
        };
    }

    public function unit(): string
    {
        return match ($this) {
            self::Peak => 'dBFS',
            self::TruePeak => 'dBTP',
            self::Loudness => 'LUFS',
        };
    }
}
