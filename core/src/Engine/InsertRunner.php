<?php

declare(strict_types=1);

namespace Hafen\Engine;

use Hafen\Audio\Block;
use Hafen\Metering\Meter;

/** Runs one insert, a processor or a split, across revisions of the session. */
interface InsertRunner
{
    /** Latency in samples. */
    public function latency(): int;

    /** Tail in samples: how long it can sound after its input has stopped. */
    public function tail(): int;

    /** Whether nothing in it moves, so that silence leaves it as it is. */
    public function isSettled(): bool;

    /** Jumps to its target values; used before a path has produced sound. */
    public function settle(): void;

    public function reset(): void;

    /** @param  int  $sourcePosition  in the session of the first sample, as the sources count */
    public function process(Block $block, int $sourcePosition, bool $metered, ?StageTaps $taps): void;

    /**
     * Returns the stages inside it and at its end, with the latency from its input in samples.
     *
     * @return array<string, int>
     */
    public function stages(): array;

    /** @return array<string, Meter> by stage, in the order of {@see stages()} */
    public function meters(): array;

    /** Returns the meter at its output. */
    public function meter(): Meter;

    /** @return array<string, InsertRunner> this one and those in it by the stage after each */
    public function runners(): array;

    /** Returns and resets the time spent, in nanoseconds. */
    public function takeNanoseconds(): int;
}
