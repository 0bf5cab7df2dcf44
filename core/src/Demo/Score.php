<?php

declare(strict_types=1);

namespace Hafen\Demo;

use Hafen\Hardware\Plug\Chords;

/** Twelve bars of four in D minor at 96 beats a minute: 30 seconds. Pitches are MIDI note numbers (A4 = 69 = 440 Hz). */
final readonly class Score
{
    public const BARS = Chords::BARS;

    public function __construct(public int $sampleRate = 48000, public float $tempo = 96.0)
    {
    }

    public function frames(): int
    {
        return (int) round(self::BARS * 4 * $this->beat());
    }

    /** Samples of one beat. */
    public function beat(): float
    {
        return 60.0 * $this->sampleRate / $this->tempo;
    }

    /** Sample at which a beat of a bar starts, both counted from 0. */
    public function at(int $bar, float $beat): int
    {
        return (int) round(($bar * 4 + $beat) * $this->beat());
    }

    public function root(int $bar): int
    {
        return Chords::root($bar);
    }

    /** @return list<int> */
    public function chord(int $bar): array
    {
        return Chords::of($bar);
    }

    public static function frequency(float $note): float
    {
        return Chords::frequency($note);
    }
}
