<?php

declare(strict_types=1);

namespace Hafen\Processor\Instrument;

/**
 * One note of the sampler.
 *
 * Source of the interpolation between samples: cubic, Catmull-Rom (Hermite with slopes from the neighbours).
 */
final class SamplerVoice implements Voice
{
    /** Seconds in which it falls silent when it is choked. */
    private const CHOKE = 0.003;

    private float $at = 0.0;

    private ?int $choking = null;

    private bool $hasEnded = false;

    /** @param  float  $gain  of the note */
    public function __construct(private readonly SampleZone $zone, private readonly int $key, private readonly float $gain, private readonly Envelope $envelope, private readonly int $sampleRate)
    {
    }

    public function release(): void
    {
        $this->envelope->release();
    }

    public function choke(): void
    {
        $this->choking ??= (int) round(self::CHOKE * $this->sampleRate);
        $this->release();
    }

    public function isReleased(): bool
    {
        return $this->envelope->isReleased();
    }

    public function isOver(): bool
    {
        return $this->hasEnded || $this->choking === 0 || $this->envelope->isOver();
    }

    public function add(array $sound, int $from, int $to, float $bend): array
    {
        $samples = $this->zone->samples;
        $last = count($samples) - 1;
        $step = 2.0 ** (($this->key + $bend - $this->zone->root) / 12.0);
        [$start, $end] = $this->zone->loop ?? [0, PHP_INT_MAX];
        $levels = $this->envelope->next($to - $from);
        $at = $this->at;
        $fade = $this->choking;
        $fadeLength = max(1.0, self::CHOKE * $this->sampleRate);
        for ($i = $from; $i < $to; ++$i) {
            if ($at >= $end) {
                $at -= $end - $start;
            }
            $whole = (int) $at;
            if ($whole >= $last) {
                $this->hasEnded = true;
                break;
            }
            $t = $at - $whole;
            $a = $samples[$whole > 0 ? $whole - 1 : 0];
            $b = $samples[$whole];
            $c = $samples[$whole + 1];
            $d = $samples[$whole + 2 > $last ? $last : $whole + 2];
            $y = $b + 0.5 * $t * ($c - $a + $t * (2.0 * $a - 5.0 * $b + 4.0 * $c - $d + $t * (3.0 * ($b - $c) + $d - $a)));
            $level = $this->gain * $levels[$i - $from];
            if ($fade !== null) {
                $level *= max(0.0, ($fade - ($i - $from) - 1) / $fadeLength);
            }
            $sound[$i] += $level * $y;
            $at += $step;
        }
        $this->at = $at;
        $this->choking = $fade === null ? null : max(0, $fade - ($to - $from));

        return $sound;
    }
}
