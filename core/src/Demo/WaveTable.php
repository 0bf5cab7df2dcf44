<?php

declare(strict_types=1);

namespace Hafen\Demo;

use Hafen\Dsp\HarmonicCycle;

/** One cycle made of harmonics, read at any pitch. */
final readonly class WaveTable
{
    /** @param  list<float>  $cycle one sample more than a cycle, for interpolation */
    private function __construct(private array $cycle)
    {
    }

    /** @param  list<float>  $harmonics amplitude of the first, second, ... harmonic */
    public static function of(array $harmonics): self
    {
        return new self(HarmonicCycle::of($harmonics));
    }

    /**
     * Adds a note to a part.
     *
     * @param  list<float>  $part
     * @param  float  $attack  seconds to full level
     * @param  float  $release  seconds to fall by 60 dB after the end
     * @param  float  $vibrato  depth in semitones, 5.3 Hz, growing in
     * @return list<float>
     */
    public function add(array $part, int $start, int $length, float $frequency, float $level, int $sampleRate, float $attack, float $release, float $vibrato = 0.0, float $phase = 0.0): array
    {
        $cycle = $this->cycle;
        $size = HarmonicCycle::SIZE;
        $step = $frequency * $size / $sampleRate;
        $attackStep = 1.0 / max(1.0, $attack * $sampleRate);
        $fall = 10.0 ** (-3.0 / max(1.0, $release * $sampleRate));
        $end = min(count($part), $start + $length + (int) ($release * $sampleRate));
        $tablePosition = $phase * $size;
        $envelope = 0.0;
        $swing = $vibrato * M_LN2 / 12.0;
        $wobbleStep = 2 * M_PI * 5.3 / $sampleRate;
        for ($i = $start; $i < $end; ++$i) {
            $since = $i - $start;
            if ($since < $length) {
                $envelope += (1.0 - $envelope) * $attackStep * 3.0;
            } else {
                $envelope *= $fall;
            }
            $whole = (int) $tablePosition;
            $part[$i] += $level * $envelope * ($cycle[$whole] + ($tablePosition - $whole) * ($cycle[$whole + 1] - $cycle[$whole]));
            if ($swing > 0.0) {
                $grown = $since < $sampleRate / 2 ? $since / ($sampleRate / 2) : 1.0;
                $tablePosition += $step * (1.0 + $swing * $grown * sin($wobbleStep * $since));
            } else {
                $tablePosition += $step;
            }
            if ($tablePosition >= $size) {
                $tablePosition -= $size;
            }
        }

        return $part;
    }
}
