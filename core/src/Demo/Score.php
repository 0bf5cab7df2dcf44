<?php

declare(strict_types=1);

namespace Hafen\Demo;

/** Twelve bars of four in D minor at 96 beats a minute: 30 seconds. Pitches are MIDI note numbers (A4 = 69 = 440 Hz). */
final readonly class Score
{
    public const BARS = 12;

    /** Root and chord of each bar. */
    private const HARMONY = [
        [38, [62, 65, 69]], [38, [62, 65, 69]], [34, [62, 65, 70]], [41, [60, 65, 69]],
        [43, [62, 67, 70]], [38, [62, 65, 69]], [33, [61, 64, 69]], [33, [61, 64, 67]],
        [38, [62, 65, 69]], [34, [62, 65, 70]], [43, [62, 67, 70]], [38, [62, 65, 69]],
    ];

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
        return self::HARMONY[$bar][0];
    }

    /** @return list<int> */
    public function chord(int $bar): array
    {
        return self::HARMONY[$bar][1];
    }

    public static function frequency(float $note): float
    {
        return 440.0 * 2.0 ** (($note - 69.0) / 12.0);
    }
}
