<?php

declare(strict_types=1);

namespace Hafen\Hardware\Plug;

use Hafen\Dsp\HarmonicCycle;

/** Somebody at a microphone, made by code: plays the chords of the demo without end, in time with the session. */
final class Performer implements Plug
{
    private const VIBRATO_FREQUENCY = 5.3;

    /** Of 60 dB in exponents of e. */
    private const FALL = 6.907755278982137;

    /** @var list<float> */
    private readonly array $cycle;

    /** Samples of a bar of four beats. */
    private readonly float $bar;

    public function __construct(private readonly Part $part, private readonly int $sampleRate, float $tempo)
    {
        $this->cycle = HarmonicCycle::of($part->harmonics());
        $this->bar = 240.0 / $tempo * $sampleRate;
    }

    public function sound(int $at, int $frames): array
    {
        $sound = array_fill(0, $frames, 0.0);
        $release = (int) ($this->part->release() * $this->sampleRate);
        $first = max(0, (int) floor(($at - $release) / $this->bar) - 1);
        for ($bar = $first, $last = (int) floor(($at + $frames) / $this->bar); $bar <= $last; ++$bar) {
            foreach ($this->part->notes($bar) as [$beat, $beats, $note, $level]) {
                $start = (int) round(($bar + $beat / 4) * $this->bar);
                $length = (int) round($beats / 4 * $this->bar);
                if ($start < $at + $frames && $start + $length + $release > $at) {
                    $sound = $this->withNote($sound, $at, $start, $length, $release, Chords::frequency($note), $level * $this->part->loudest());
                }
            }
        }

        return $sound;
    }

    /**
     * Adds what of a note falls into a block. Each sample is computed for itself, so that all blocks fit.
     *
     * @param  list<float>  $sound
     * @return list<float>
     */
    private function withNote(array $sound, int $at, int $start, int $length, int $release, float $frequency, float $level): array
    {
        $cycle = $this->cycle;
        $size = HarmonicCycle::SIZE;
        $attack = 1.0 / max(1.0, $this->part->attack() * $this->sampleRate);
        $decay = $this->part->decay() === null ? 0.0 : self::FALL / ($this->part->decay() * $this->sampleRate);
        $fall = self::FALL / $release;
        $step = $frequency / $this->sampleRate;
        $wobble = 2 * M_PI * self::VIBRATO_FREQUENCY / $this->sampleRate;
        $depth = $this->part->vibrato() * M_LN2 / 12.0 / $wobble;
        $first = max($at, $start);
        $end = min($at + count($sound), $start + $length + $release);
        for ($i = $first; $i < $end; ++$i) {
            $since = $i - $start;
            $envelope = $level * exp(-$decay * $since - ($since > $length ? $fall * ($since - $length) : 0.0));
            if ($since * $attack < 1.0) {
                $envelope *= $since * $attack;
            }
            $turns = $step * ($depth > 0.0 ? $since + $depth * (1.0 - cos($wobble * $since)) : $since);
            $place = ($turns - floor($turns)) * $size;
            $whole = (int) $place;
            $sound[$i - $at] += $envelope * ($cycle[$whole] + ($place - $whole) * ($cycle[$whole + 1] - $cycle[$whole]));
        }

        return $sound;
    }
}
