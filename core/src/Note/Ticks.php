<?php

declare(strict_types=1);

namespace Hafen\Note;

/** Notes are counted in ticks of a quarter note, so that they keep their places in the bar at every tempo. */
final readonly class Ticks
{
    /** In a quarter note. */
    public const PER_BEAT = 960;

    /** In a bar: four quarter notes. */
    public const PER_BAR = 4 * self::PER_BEAT;

    /** The last one a session can have: more than two days at 120 BPM. */
    public const LAST = 400_000_000;

    public function __construct(private float $tempo, private int $sampleRate)
    {
    }

    /** The sample of the session a tick falls on. */
    public function sample(int $tick): int
    {
        return (int) round($tick * 60.0 * $this->sampleRate / ($this->tempo * self::PER_BEAT));
    }

    /** The tick nearest to a sample of the session. */
    public function tick(int $sample): int
    {
        return (int) round($sample * $this->tempo * self::PER_BEAT / (60.0 * $this->sampleRate));
    }
}
