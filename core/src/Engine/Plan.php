<?php

declare(strict_types=1);

namespace Hafen\Engine;

use Hafen\Routing\Alignment;
use Hafen\Session\Session;

/** A session made ready to run: its strips, each after all that feed it, the feeds between them, and what waits for what. */
final readonly class Plan
{
    /**
     * @param  array<string, ChannelStrip>  $strips  by channel id, in the order they are worked
     * @param  array<string, Feed>  $feeds  by route key
     */
    public function __construct(
        public Session $session,
        public array $strips,
        public array $feeds,
        private Alignment $alignment,
    ) {
    }

    public function main(): ChannelStrip
    {
        return $this->strips[$this->session->main()->id];
    }

    /** Samples by which the main's output comes after its sources. */
    public function latency(): int
    {
        return $this->alignment->session;
    }

    /** Samples by which what enters a channel comes after the sources. */
    public function arrival(string $channel): int
    {
        return $this->alignment->arrival[$channel] ?? 0;
    }

    public function strip(string $channel): ?ChannelStrip
    {
        return $this->strips[$channel] ?? null;
    }

    public function has(Tap $tap): bool
    {
        return isset($this->strip($tap->channel)?->stages()[$tap->stage]);
    }

    /** Samples by which a tap comes after the sources. */
    public function latencyAt(Tap $tap): int
    {
        return $this->arrival($tap->channel) + ($this->strip($tap->channel)?->stages()[$tap->stage] ?? 0);
    }

    /** Longest time in samples that sound can go on after the sources stopped. */
    public function tail(): int
    {
        $tails = [];
        $latest = 0;
        foreach ($this->strips as $id => $strip) {
            $tails[$id] = $strip->tail($tails);
            $latest = max($latest, $this->arrival((string) $id) + $strip->latency());
        }

        return max([0, ...array_values($tails)]) + $latest;
    }
}
