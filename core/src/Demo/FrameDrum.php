<?php

declare(strict_types=1);

namespace Hafen\Demo;

use Hafen\Dsp\Noise;

/** Struck: a skin that falls in pitch, its overtones, and the slap of the hand. */
final readonly class FrameDrum implements Voice
{
    /** Beat, force, true for the rim. */
    private const PATTERN = [[0.0, 1.0, false], [0.75, 0.35, true], [1.5, 0.7, false], [2.0, 0.5, true], [2.5, 0.85, false], [3.25, 0.3, true], [3.5, 0.45, true]];

    public function play(Score $score): array
    {
        $part = array_fill(0, $score->frames(), 0.0);
        $noise = new Noise(1234);
        for ($bar = 1; $bar < Score::BARS; ++$bar) {
            foreach (self::PATTERN as [$beat, $force, $rim]) {
                if ($bar === Score::BARS - 1 && $beat > 0) {
                    break;
                }
                $part = self::hit($part, $score->at($bar, $beat), 0.78 * $force, $rim, $score->sampleRate, $noise);
            }
        }

        return [$part];
    }

    /**
     * @param  list<float>  $part
     * @return list<float>
     */
    private static function hit(array $part, int $start, float $level, bool $rim, int $sampleRate, Noise $noise): array
    {
        $length = min((int) (0.9 * $sampleRate), count($part) - $start);
        $slap = $noise->samples(max(0, $length));
        $phase = $overtone = 0.0;
        $low = 0.0;
        [$pitch, $decay, $skinLevel, $slapLevel, $brightness] = $rim ? [168.0, 13.0, 0.45, 0.6, 0.5] : [78.0, 6.5, 0.85, 0.35, 0.22];
        for ($i = 0; $i < $length; ++$i) {
            $t = $i / $sampleRate;
            $frequency = $pitch * (1.0 + 0.35 * exp(-$t * 38.0));
            $phase += 2 * M_PI * $frequency / $sampleRate;
            $overtone += 2 * M_PI * $frequency * 1.593 / $sampleRate;
            $low += $brightness * ($slap[$i] - $low);
            $skin = sin($phase) * exp(-$t * $decay) + 0.35 * sin($overtone) * exp(-$t * 15.0);
            $part[$start + $i] += $level * ($skinLevel * $skin + $slapLevel * $low * exp(-$t * 85.0));
        }

        return $part;
    }
}
