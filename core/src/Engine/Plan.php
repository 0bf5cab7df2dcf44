<?php

declare(strict_types=1);

namespace Hafen\Engine;

use Hafen\Session\Session;

/** A session made ready to run: its strips in the order they are worked, and how late the main comes. */
final readonly class Plan
{
    /** @param  array<string, Strip>  $tracks by channel id */
    public function __construct(
        public Session $session,
        public array $tracks,
        /** @var list<string> ids of the tracks that feed the main */
        public array $feeding,
        public Strip $main,
        public int $trackLatency,
    ) {
    }

    /** Samples by which the main's output comes after its sources. */
    public function latency(): int
    {
        return $this->trackLatency + $this->main->latency();
    }

    public function strip(string $channel): ?Strip
    {
        return $channel === $this->main->id ? $this->main : ($this->tracks[$channel] ?? null);
    }

    public function has(Tap $tap): bool
    {
        $strip = $this->strip($tap->channel);
        if ($strip === null) {
            return false;
        }
        if (in_array($tap->stage, [Tap::SOURCE, Tap::PRE_FADER, Tap::POST_FADER], true)) {
            return true;
        }
        foreach ($strip->allSlots() as $slot) {
            if ($tap->stage === "insert:{$slot->id}") {
                return true;
            }
        }

        return false;
    }

    /** Samples by which a tap comes after the sources. */
    public function latencyAt(Tap $tap): int
    {
        $strip = $this->strip($tap->channel);
        if ($strip === null) {
            return 0;
        }

        return $strip->latencyTo($tap->stage) + ($strip === $this->main ? $this->trackLatency : 0);
    }

    /** Longest time in samples that sound can go on after the sources stopped. */
    public function tail(): int
    {
        $longest = 0;
        foreach ($this->tracks as $strip) {
            $longest = max($longest, $strip->tail());
        }

        return $longest + $this->main->tail() + $this->latency();
    }

    /** @return list<Strip> tracks, then the main */
    public function strips(): array
    {
        return [...array_values($this->tracks), $this->main];
    }
}
