<?php

declare(strict_types=1);

namespace Hafen\Hardware\Plug;

/** The chords of the demo, a bar each, twelve bars that begin anew: what all of its performers play. Pitches are MIDI note numbers (A4 = 69 = 440 Hz). */
final class Chords
{
    public const BARS = 12;

    /** Root and chord of each bar, in D minor. */
    private const HARMONY = [
        [38, [62, 65, 69]], [38, [62, 65, 69]], [34, [62, 65, 70]], [41, [60, 65, 69]],
        [43, [62, 67, 70]], [38, [62, 65, 69]], [33, [61, 64, 69]], [33, [61, 64, 67]],
        [38, [62, 65, 69]], [34, [62, 65, 70]], [43, [62, 67, 70]], [38, [62, 65, 69]],
    ];

    public static function root(int $bar): int
    {
        return self::HARMONY[$bar % self::BARS][0];
    }

    /** @return list<int> */
    public static function of(int $bar): array
    {
        return self::HARMONY[$bar % self::BARS][1];
    }

    public static function frequency(float $note): float
    {
        return 440.0 * 2.0 ** (($note - 69.0) / 12.0);
    }
}
