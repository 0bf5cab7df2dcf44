<?php

declare(strict_types=1);

namespace Hafen\Dsp;

/**
 * A slow movement whose place follows from the place in the session, so that every render moves the same way.
 *
 * A changed rate goes on from where the movement is. Angles are counted from whole samples, never summed up, so that it
 * does not matter how a stretch is cut into blocks.
 */
final class Lfo
{
    /** Radians a sample. */
    private float $turn = 0.0;

    /** Where it was when its rate was set last, and samples since then. */
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

    /** Says which sample of the session comes next. */
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
