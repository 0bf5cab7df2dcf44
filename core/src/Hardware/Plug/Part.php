<?php

declare(strict_types=1);

namespace Hafen\Hardware\Plug;

/** What an invented performer plays, and how the instrument sounds. */
enum Part: string
{
    case Voice = 'voice';
    case Guitar = 'guitar';
    case Vibraphone = 'vibraphone';

    /**
     * The notes of a bar: beat it starts at, beats it lasts, pitch as MIDI note number, level from 0 to 1. Every fourth bar is the loudest.
     *
     * @return list<array{float, float, int, float}>
     */
    public function notes(int $bar): array
    {
        [$low, $middle, $high] = Chords::of($bar);
        $level = 0.55 + 0.15 * ($bar % 4);

        return match ($this) {
            self::Voice => $bar % 2 === 0
                ? [[0.0, 1.9, $middle, $level], [2.0, 0.9, $high, $level], [3.0, 0.9, $middle, 0.8 * $level]]
                : [[0.0, 2.8, $low, $level], [3.0, 0.9, $middle, 0.8 * $level]],
            self::Guitar => array_map(
                static fn (int $eighth, int $note): array => [0.5 * $eighth, 0.5, $note - 12, $level * ($eighth % 4 === 0 ? 1.0 : 0.7)],
                range(0, 7),
                [$low, $middle, $high, $middle, $low, $high, $middle, $high],
            ),
            self::Vibraphone => [[0.0, 1.5, $low + 12, $level], [0.0, 1.5, $high + 12, 0.7 * $level], [1.5, 1.5, $middle + 12, 0.8 * $level], [3.0, 1.0, $high + 12, 0.6 * $level]],
        };
    }

    /** @return list<float> amplitudes of its harmonics */
    public function harmonics(): array
    {
        return match ($this) {
            // An open vowel: harmonics are strong near 700 and 1100 Hz.
            self::Voice => array_map(static fn (int $k): float => 1.0 / $k * (1.0 + 2.5 * exp(-(($k - 2.2) ** 2)) + 1.5 * exp(-(($k - 3.6) ** 2))), range(1, 14)),
            self::Guitar => array_map(static fn (int $k): float => abs(sin(0.22 * M_PI * $k)) / $k, range(1, 18)),
            self::Vibraphone => [1.0, 0.0, 0.0, 0.25, 0.0, 0.0, 0.0, 0.0, 0.0, 0.06],
        };
    }

    /** Seconds to full level. */
    public function attack(): float
    {
        return match ($this) {
            self::Voice => 0.06,
            self::Guitar => 0.003,
            self::Vibraphone => 0.002,
        };
    }

    /** Seconds in which a note falls by 60 dB while it is held; null where it is sustained. */
    public function decay(): ?float
    {
        return match ($this) {
            self::Voice => null,
            self::Guitar => 1.8,
            self::Vibraphone => 3.0,
        };
    }

    /** Seconds in which it falls by 60 dB after its end. */
    public function release(): float
    {
        return match ($this) {
            self::Voice => 0.2,
            self::Guitar => 0.4,
            self::Vibraphone => 1.2,
        };
    }

    /** Depth of the vibrato in semitones, at 5.3 Hz. */
    public function vibrato(): float
    {
        return $this === self::Voice ? 0.25 : 0.0;
    }

    /** Highest sample as it comes from the microphone, 1.0 is full scale of a converter at a gain of 0 dB. */
    public function loudest(): float
    {
        return match ($this) {
            self::Voice => 0.009,
            self::Guitar => 0.014,
            self::Vibraphone => 0.011,
        };
    }
}
