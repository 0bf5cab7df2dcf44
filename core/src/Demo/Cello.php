<?php

declare(strict_types=1);

namespace Hafen\Demo;

use Hafen\Dsp\Noise;

/** Bowed: a long line with vibrato that grows in, one note a bar and a turn at the end. */
final readonly class Cello implements Voice
{
    private const LINE = [[0, 0, 4, 50], [1, 0, 3, 53], [1, 3, 1, 52], [2, 0, 4, 50], [3, 0, 2, 48], [3, 2, 2, 53], [4, 0, 3, 55], [4, 3, 1, 53], [5, 0, 4, 50], [6, 0, 2, 49], [6, 2, 2, 52], [7, 0, 4, 45], [8, 0, 2, 50], [8, 2, 2, 57], [9, 0, 4, 58], [10, 0, 2, 55], [10, 2, 2, 52], [11, 0, 3, 50]];

    public function play(Score $score): array
    {
        $harmonics = [];
        for ($k = 1; $k <= 28; ++$k) {
            // A saw softened by the body, with its resonance near the fourth harmonic.
            $harmonics[] = 1.0 / $k ** 1.15 * (1.0 + 0.8 * exp(-(($k - 4) ** 2) / 3.0));
        }
        $bow = WaveTable::of($harmonics);
        $part = array_fill(0, $score->frames(), 0.0);
        foreach (self::LINE as $i => [$bar, $beat, $length, $note]) {
            $part = $bow->add($part, $score->at($bar, $beat), (int) ($length * $score->beat() * 0.97), Score::frequency($note), 0.26 + 0.08 * sin(0.9 * $i), $score->sampleRate, 0.16, 0.22, 0.22);
        }
        $hair = (new Noise(99))->samples(count($part));
        $low = 0.0;
        $follow = 0.0;
        foreach ($part as $i => $sample) {
            $low += 0.35 * ($hair[$i] - $low);
            $follow += 0.002 * (abs($sample) - $follow);
            $part[$i] = $sample + 0.05 * $follow * ($hair[$i] - $low);
        }

        return [$part];
    }
}
