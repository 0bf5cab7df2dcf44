<?php

declare(strict_types=1);

namespace Hafen\Processor\Instrument;

use Hafen\Dsp\Noise;
use Hafen\Dsp\Oscillator\BandLimitedWave;
use Hafen\Note\Note;

/**
 * One note of the synthesiser: two oscillators and noise through a low-pass filter, each with its envelope.
 *
 * Source of the filter: state variable, trapezoidal integration, V. Zavalishin, "The Art of VA Filter Design": v1 = (s1 + g (x - s2)) /
 * (1 + g (g + k)), v2 = s2 + g v1, g = tan(pi f / rate), k = 1 / Q. Pitch and cutoff are worked out anew every 32 samples of the note.
 */
final class SynthesiserVoice implements Voice
{
    private const STEP = 32;

    /** Milliseconds in which it falls silent when it is choked. */
    private const CHOKE = 3.0;

    private readonly Envelope $loudness;

    private readonly Envelope $brightness;

    private int $age = 0;

    /** Place in the cycle, 0 to 1, of both oscillators. */
    private float $one = 0.0;

    private float $two = 0.0;

    /** Where the envelope of the filter was at the last step. */
    private float $opened = 0.0;

    private float $s1 = 0.0;

    private float $s2 = 0.0;

    private readonly Noise $noise;

    /** Frames until it is silent; null while it is not choked. */
    private ?int $choking = null;

    /** @param  float  $from  the key it glides from */
    public function __construct(
        private readonly SynthesiserPatch $patch,
        private readonly int $key,
        private readonly float $velocity,
        private readonly float $from,
        private readonly int $sampleRate,
        int $seed,
    ) {
        $this->noise = new Noise($seed);
        $this->loudness = Envelope::of($patch->attack, $patch->decay, $patch->sustain, $patch->release, $sampleRate);
        $this->brightness = Envelope::of($patch->filterAttack, $patch->filterDecay, $patch->filterSustain, $patch->release, $sampleRate);
    }

    public function release(): void
    {
        $this->loudness->release();
        $this->brightness->release();
    }

    public function choke(): void
    {
        $this->choking ??= (int) round(self::CHOKE / 1000.0 * $this->sampleRate);
        $this->release();
    }

    public function isReleased(): bool
    {
        return $this->loudness->isReleased();
    }

    public function isOver(): bool
    {
        return $this->choking === 0 || $this->loudness->isOver();
    }

    public function add(array $sound, int $from, int $to, float $bend): array
    {
        while ($from < $to) {
            // The grid is counted from the start of the note, so that blocks of any length sound the same.
            $end = min($to, $from + self::STEP - $this->age % self::STEP);
            $sound = $this->piece($sound, $from, $end, $bend);
            $from = $end;
        }

        return $sound;
    }

    /**
     * @param  list<float>  $sound
     * @return list<float>
     */
    private function piece(array $sound, int $from, int $to, float $bend): array
    {
        $patch = $this->patch;
        $frames = $to - $from;
        $start = $this->age - $this->age % self::STEP;
        $seconds = $start / $this->sampleRate;
        $lfo = sin(2.0 * M_PI * $patch->lfoRate * $seconds);
        $glided = $patch->glide <= 0.0 || $seconds >= $patch->glide ? (float) $this->key : $this->from + ($this->key - $this->from) * $seconds / $patch->glide;
        $key = $glided + $bend + $lfo * $patch->lfoPitch / 100.0;
        $levels = $this->loudness->next($frames);
        if ($this->age === $start) {
            $this->opened = $this->brightness->value();
        }
        $this->brightness->next($frames);
        $cutoff = $patch->cutoff * 2.0 ** (($patch->keyFollow * ($key - 60.0) + $patch->filterAmount * $this->opened + $lfo * $patch->lfoCutoff) / 12.0);
        $g = tan(M_PI * min(0.45, max(1e-4, $cutoff / $this->sampleRate)));
        $k = $patch->damping;
        $a1 = 1.0 / (1.0 + $g * ($g + $k));
        $frequencyOne = Note::frequency($key);
        $frequencyTwo = Note::frequency($key + $patch->secondSemitones + $patch->secondCents / 100.0);
        $cycleOne = BandLimitedWave::cycle($patch->firstWave, $frequencyOne, $this->sampleRate);
        $cycleTwo = BandLimitedWave::cycle($patch->secondWave, $frequencyTwo, $this->sampleRate);
        $stepOne = $frequencyOne / $this->sampleRate;
        $stepTwo = $frequencyTwo / $this->sampleRate;
        $gainOne = 1.0 - $patch->secondShare;
        $gainTwo = $patch->secondShare;
        $hiss = $patch->noise;
        $gain = $patch->gain * (1.0 - $patch->velocityShare * (1.0 - $this->velocity));
        $size = BandLimitedWave::SIZE;
        [$one, $two, $s1, $s2] = [$this->one, $this->two, $this->s1, $this->s2];
        $noise = $hiss > 0.0 ? $this->noise->samples($frames) : [];
        $fade = $this->choking;
        $fadeLength = max(1.0, self::CHOKE / 1000.0 * $this->sampleRate);
        for ($i = 0; $i < $frames; ++$i) {
            $at = $one * $size;
            $whole = (int) $at;
            $x = $gainOne * ($cycleOne[$whole] + ($at - $whole) * ($cycleOne[$whole + 1] - $cycleOne[$whole]));
            $at = $two * $size;
            $whole = (int) $at;
            $x += $gainTwo * ($cycleTwo[$whole] + ($at - $whole) * ($cycleTwo[$whole + 1] - $cycleTwo[$whole]));
            if ($hiss > 0.0) {
                $x += $hiss * $noise[$i];
            }
            $v1 = $a1 * ($s1 + $g * ($x - $s2));
            $v2 = $s2 + $g * $v1;
            $s1 = 2.0 * $v1 - $s1;
            $s2 = 2.0 * $v2 - $s2;
            $level = $gain * $levels[$i];
            if ($fade !== null) {
                $level *= max(0.0, ($fade - $i - 1) / $fadeLength);
            }
            $sound[$from + $i] += $level * $v2;
            $one += $stepOne;
            $one -= (int) $one;
            $two += $stepTwo;
            $two -= (int) $two;
        }
        [$this->one, $this->two, $this->s1, $this->s2] = [$one, $two, $s1, $s2];
        $this->choking = $fade === null ? null : max(0, $fade - $frames);
        $this->age += $frames;

        return $sound;
    }
}
