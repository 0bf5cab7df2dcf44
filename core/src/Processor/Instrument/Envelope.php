<?php

declare(strict_types=1);

namespace Hafen\Processor\Instrument;

/**
 * Attack, decay, sustain and release of a voice, sample by sample.
 *
 * It rises evenly to 1 in the attack; the decay falls towards the sustain, and the release towards silence, by 60 dB of the way in their
 * times. It is over 90 dB below where it was released.
 */
final class Envelope
{
    private const OVER = 3.162e-5;

    private float $value = 0.0;

    /** Samples since it began. */
    private int $age = 0;

    private bool $isReleased = false;

    private float $floor = 0.0;

    public function __construct(private readonly int $attack, private readonly float $decay, private readonly float $sustain, private readonly float $release)
    {
    }

    /** @param  float  $attack  seconds, as are decay and release; sustain is 0 to 1 */
    public static function of(float $attack, float $decay, float $sustain, float $release, int $sampleRate): self
    {
        return new self(max(1, (int) round($attack * $sampleRate)), self::fall($decay, $sampleRate), $sustain, self::fall($release, $sampleRate));
    }

    public function release(): void
    {
        if (! $this->isReleased) {
            $this->isReleased = true;
            $this->floor = $this->value * self::OVER;
        }
    }

    public function isReleased(): bool
    {
        return $this->isReleased;
    }

    public function isOver(): bool
    {
        return $this->isReleased && $this->value <= $this->floor;
    }

    public function value(): float
    {
        return $this->value;
    }

    /** @return list<float> */
    public function next(int $frames): array
    {
        $values = [];
        $value = $this->value;
        $i = 0;
        if (! $this->isReleased) {
            $step = 1.0 / $this->attack;
            for ($rising = min($frames, $this->attack - $this->age); $i < $rising; ++$i) {
                $value += $step;
                $values[] = $value;
            }
            if ($i < $frames) {
                if ($this->age + $i === $this->attack) {
                    $value = 1.0;
                }
                $sustain = $this->sustain;
                $decay = $this->decay;
                for (; $i < $frames; ++$i) {
                    $value = $sustain + ($value - $sustain) * $decay;
                    $values[] = $value;
                }
            }
        } else {
            $release = $this->release;
            $floor = $this->floor;
            for (; $i < $frames; ++$i) {
                $value = $value > $floor ? $value * $release : 0.0;
                $values[] = $value;
            }
        }
        $this->age += $frames;
        $this->value = $value;

        return $values;
    }

    private static function fall(float $seconds, int $sampleRate): float
    {
        return 10.0 ** (-3.0 / max(1.0, $seconds * $sampleRate));
    }
}
