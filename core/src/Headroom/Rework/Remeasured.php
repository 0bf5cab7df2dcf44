<?php

declare(strict_types=1);

namespace Hafen\Headroom\Rework;

use Hafen\Audio\Decibel;
use Hafen\Engine\Tap;
use Hafen\Headroom\Levels;
use Hafen\Metering\TapReading;

/** What edits make of a session: the main's levels, and readings of the taps whose sound is another. */
final readonly class Remeasured
{
    /**
     * @param  ?int  $loudestAt  position of the block with the highest true peak of the main; null is silence
     * @param  array<string, TapReading>  $taps  by tap key, where they were asked for; of what is only scaled there is none
     */
    public function __construct(public Levels $levels, public ?int $loudestAt, public array $taps, private TapScales $scales)
    {
    }

    /**
     * The RMS level at a tap in dBFS; null is silence, or a tap that is not there.
     *
     * @param  string  $tap  its key
     * @param  array<string, TapReading>  $before  as the session was
     */
    public function rmsLevel(string $tap, array $before): ?float
    {
        if (isset($this->taps[$tap])) {
            return $this->taps[$tap]->rmsLevel();
        }
        $at = Tap::fromString($tap);
        $scale = $at === null ? null : $this->scales->atStage($at->channel, $at->stage);
        $level = ($before[$tap] ?? null)?->rmsLevel();

        return $scale === null || $level === null ? null : $level + (Decibel::fromGain($scale) ?? 0.0);
    }

    /** @return array<int, float> most gain reduction behind an insert whose sound is another, see {@see TapReading} */
    public function reductions(string $tap): array
    {
        return $this->taps[$tap]->reductions ?? [];
    }

    /** Whether the edits change what passes a tap in more than its level. */
    public function isOtherAt(string $channel, string $stage): bool
    {
        return $this->scales->atStage($channel, $stage) === null;
    }
}
