<?php

declare(strict_types=1);

namespace Hafen\Dsp;

/**
 * A low-frequency oscillator whose phase follows from the session position, so that every render is the same.
 *
 * A changed rate continues from the current phase. Angles are computed from sample counts, not accumulated, so that it
 * does not matter how a range is cut into blocks.
 */
final class Lfo
{
    /** Radians a sample. */
    private float $turn = 0.0;

    /** Phase when the rate was last set, and samples since then. */
    private float $phase = 0.0;

    private int $since = 0;

    private int $position = 0;

    public function rate(float $hertz, int $sampleRate): void
    {
        $turn = 2.0 * M_PI * $hertz / $sampleRate;
        if ($turn !== $this->turn) {
            $this->phase = fmod($this->phase + $this->turn * $this->since, 2.0 * M_PI);
            $this->since = 0;
        }
        $this->turn = $turn;
    }

    /** Seeks to a session sample. */
    public function at(int $position): void
    {
        if ($position !== $this->position) {
            $this->position = $this->since = $position;
            $this->phase = 0.0;
        }
    }

    /** @return array{float, float, int} phase, turn a sample, samples since: the angle is phase + turn * (since + i), never below 0 */
    public function angle(): array
    {
        return [$this->phase, $this->turn, $this->since];
    }

    /** Samples of the session so far. */
    public function position(): int
    {
        return $this->position;
    }

    public function advance(int $frames): void
    {
        $this->since += $frames;
        $this->position += $frames;
    }

    public function reset(): void
    {
        $this->phase = 0.0;
        $this->position = $this->since = 0;
    }
}
