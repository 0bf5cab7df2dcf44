<?php

declare(strict_types=1);

namespace Hafen\Engine;

use Hafen\Routing\Alignment;
use Hafen\Session\Session;

/** A compiled session: channel strips in processing order, the feeds between them, and their alignment. */
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

    /** Latency from the sources to the main's output, in samples. */
    public function latency(): int
    {
        return $this->alignment->session;
    }

    /** Latency from the sources to a channel's input, in samples. */
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

    /** Latency from the sources to a tap, in samples. */
    public function latencyAt(Tap $tap): int
    {
        return $this->arrival($tap->channel) + ($this->strip($tap->channel)?->stages()[$tap->stage] ?? 0);
    }

    /** Longest tail of the session in samples. */
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
