<?php

declare(strict_types=1);

namespace Hafen\Demo;

use Hafen\Dsp\Noise;

/** Plucked: a string model (Karplus & Strong, Computer Music Journal 1983) with a soft thumb. */
final readonly class UprightBass implements Voice
{
    /** Beat, semitones above the root, force. */
    private const WALK = [[0.0, 0, 1.0], [1.0, 7, 0.62], [2.0, 12, 0.8], [2.5, 7, 0.45], [3.0, 3, 0.7], [3.5, 5, 0.5]];

    public function play(Score $score): array
    {
        $part = array_fill(0, $score->frames(), 0.0);
        $noise = new Noise(4711);
        for ($bar = 0; $bar < Score::BARS; ++$bar) {
            foreach (self::WALK as $k => [$beat, $interval, $force]) {
                if ($bar === Score::BARS - 1 && $k > 0) {
                    break;
                }
                $note = $score->root($bar) + $interval;
                $note = $note > 50 ? $note - 12 : $note;
                $length = (int) ($score->beat() * ($bar === Score::BARS - 1 ? 4.0 : 1.05));
                $part = self::pluck($part, $score->at($bar, $beat), $length, Score::frequency($note), 0.85 * $force, $score->sampleRate, $noise);
            }
        }

        return [$part];
    }

    /**
     * @param  list<float>  $part
     * @return list<float>
     */
    private static function pluck(array $part, int $start, int $length, float $frequency, float $level, int $sampleRate, Noise $noise): array
    {
        $period = max(2, (int) round($sampleRate / $frequency));
        $string = $noise->samples($period);
        // The thumb is soft: the burst is smoothed twice around the string, and its mean taken out.
        for ($pass = 0; $pass < 4; ++$pass) {
            $low = $string[$period - 1];
            foreach ($string as $i => $sample) {
                $low += 0.12 * ($sample - $low);
                $string[$i] = $low;
            }
        }
        $mean = array_sum($string) / $period;
        $peak = 1e-9;
        foreach ($string as $i => $sample) {
            $string[$i] = $sample - $mean;
            $peak = max($peak, abs($string[$i]));
        }
        $end = min(count($part), $start + $length);
        $readIndex = 0;
        $held = 0.0;
        $damped = $end - (int) (0.04 * $sampleRate);
        $loss = 0.9985;
        $scale = $level / $peak * 0.55;
        for ($i = $start; $i < $end; ++$i) {
            $now = $string[$readIndex];
            $held = 0.82 * $now + 0.18 * $held;
            $string[$readIndex] = $held * ($i > $damped ? 0.94 : $loss);
            $onset = $i - $start < 200 ? ($i - $start) / 200 : 1.0;
            $part[$i] += $scale * $onset * $now;
            if (++$readIndex === $period) {
                $readIndex = 0;
            }
        }

        return $part;
    }
}
