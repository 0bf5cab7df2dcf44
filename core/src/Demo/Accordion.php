<?php

declare(strict_types=1);

namespace Hafen\Demo;

/** Reed: two slightly detuned reeds a note, bellows that breathe; one of two microphones close to it. */
final readonly class Accordion implements Voice
{
    /** Beat, length in beats and place in the chord (or above it) of a two-bar figure. */
    private const FIGURE = [
        [0.0, 1.5, 2, 0], [1.5, 0.5, 1, 0], [2.0, 1.0, 2, 0], [3.0, 0.5, 0, 12], [3.5, 0.5, 2, 0],
        [4.0, 1.0, 1, 0], [5.0, 0.5, 2, 0], [5.5, 1.5, 0, 12], [7.0, 1.0, 2, 0],
    ];

    /** @param  int  $side  0 for the left microphone, 1 for the right */
    public function __construct(private int $side)
    {
    }

    public function play(Score $score): array
    {
        $reed = WaveTable::of([1.0, 0.62, 0.5, 0.33, 0.27, 0.2, 0.17, 0.12, 0.1, 0.08, 0.06, 0.05, 0.04, 0.03]);
        $side = $this->side;
        $part = array_fill(0, $score->frames(), 0.0);
        for ($bar = 0; $bar < Score::BARS; ++$bar) {
            // Soft off-beat chords under the tune.
            foreach ([1.0, 3.0] as $beat) {
                foreach ($score->chord($bar) as $k => $note) {
                    $part = $reed->add($part, $score->at($bar, $beat), (int) ($score->beat() * 0.45), Score::frequency($note - 12 + 0.03 * $side), 0.06 + 0.01 * $k * $side, $score->sampleRate, 0.02, 0.1);
                }
            }
        }
        for ($bar = 2; $bar < Score::BARS; $bar += 2) {
            foreach (self::FIGURE as [$beat, $length, $degree, $up]) {
                $in = $bar + intdiv((int) $beat, 4);
                $note = $score->chord($in)[$degree] + $up + 12;
                $swell = 0.16 + 0.05 * sin(M_PI * $bar / Score::BARS);
                foreach ([-0.07, 0.07] as $reedNumber => $detune) {
                    $part = $reed->add($part, $score->at($bar, $beat), (int) ($length * $score->beat() * 0.94), Score::frequency($note + $detune), $swell * ($side === $reedNumber ? 1.0 : 0.62), $score->sampleRate, 0.035, 0.12, phase: 0.31 * $side);
                }
            }
        }

        return [$part];
    }
}
