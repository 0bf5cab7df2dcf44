<?php

declare(strict_types=1);

namespace Hafen\Engine;

use Hafen\Audio\Block;
use Hafen\Metering\Meter;

/** One insert at work, be it a processor or a split. It lives on from one revision to the next. */
interface InsertRunner
{
    /** Samples by which it makes its sound late. */
    public function latency(): int;

    /** Samples it can go on sounding after its input stopped. */
    public function tail(): int;

    /** Is where it was set to be, at once: for a path that has not sounded yet. */
    public function settle(): void;

    public function reset(): void;

    /** @param  int  $sourcePosition  in the session of the first sample, as the sources count */
    public function process(Block $block, int $sourcePosition, bool $metered, ?StageTaps $taps): void;

    /**
     * The taps in it and at its end: what is late there since its start, in samples, by stage.
     *
     * @return array<string, int>
     */
    public function stages(): array;

    /** @return array<string, Meter> by stage, in the order of {@see stages()} */
    public function meters(): array;

    /** The one at its end. */
    public function meter(): Meter;

    /** @return array<string, InsertRunner> this one and those in it by the stage after each */
    public function runners(): array;

    /** Time spent since last asked, in nanoseconds. */
    public function takeNanoseconds(): int;
}
