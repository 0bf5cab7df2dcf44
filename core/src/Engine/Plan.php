<?php

declare(strict_types=1);

namespace Hafen\Engine;

use Hafen\Routing\Alignment;
use Hafen\Routing\SessionGraph;
use Hafen\Routing\Sleepers;
use Hafen\Session\Session;

/** A compiled session: channel strips in processing order, the feeds between them, and their alignment. */
final readonly class Plan
{
    /** Seconds for which compressors, gates and limiters remember a level. */
    private const MEMORY_SECONDS = 4;

    /** @var array<string, ChannelStrip> that wait for nothing another process works, by channel id, in processing order */
    public array $independent;

    /** @var array<string, ChannelStrip> that wait neither for another process nor for what comes in at the interface, by channel id, in processing order */
    public array $ahead;

    /**
     * @param  array<string, ChannelStrip>  $strips  by channel id, in the order they are worked
     * @param  array<string, Feed>  $feeds  by route key
     * @param  array<string, Strip>  $remote  those other processes work, by channel id
     * @param  array<string, Contribution>  $sums  parts of what feeds channels of other processes, see {@see Parallel\SumKey::id()}
     * @param  array<string, string>  $unplayable  why frozen channels play live, by channel id: their file cannot be played
     * @param  ?InterfaceBlocks  $hardware  what hardware loops of these strips go through; null where there are none
     */
    public function __construct(
        public Session $session,
        public array $strips,
        public array $feeds,
        private Alignment $alignment,
        public array $remote = [],
        public array $sums = [],
        public array $unplayable = [],
        private ?InterfaceBlocks $hardware = null,
    ) {
        $this->independent = $remote === [] ? $strips : $this->notAfter($remote);
        // A loop that is bypassed may still fade out.
        $live = array_filter($strips, static fn (ChannelStrip $strip): bool => $strip->input->live !== null || ($session->loops !== [] && $strip->goesThroughHardware()));
        $this->ahead = $live === [] ? $this->independent : $this->notAfter($remote + $live);
    }

    /** Whether sound goes through units of outboard. */
    public function usesHardware(): bool
    {
        return $this->hardware !== null;
    }

    /** Frames of a block its strips can be worked in, at most so many: through hardware no more than its interface takes. */
    public function blockFrames(int $most): int
    {
        return $this->hardware?->frames($most) ?? $most;
    }

    /** To be called before its strips are worked for a block by who runs no {@see Engine}; {@see end()} after. */
    public function begin(int $frames): void
    {
        $this->hardware?->begin($frames);
    }

    public function end(int $frames): void
    {
        $this->hardware?->end($frames);
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
        return isset($this->stages($tap->channel)[$tap->stage]);
    }

    /** Latency from the sources to a tap, in samples. */
    public function latencyAt(Tap $tap): int
    {
        return $this->arrival($tap->channel) + ($this->stages($tap->channel)[$tap->stage] ?? 0);
    }

    /** @return array<string, int> latency of each tap in samples, in the order sound passes */
    private function stages(string $channel): array
    {
        return ($this->strips[$channel] ?? $this->remote[$channel] ?? null)?->stages() ?? [];
    }

    /** @return array<string, Strip> of this process and of others, by channel id */
    private function all(): array
    {
        return $this->remote + $this->strips;
    }

    /**
     * Strips of this process that none of these leads to.
     *
     * @param  array<string, Strip>  $strips  by channel id
     * @return array<string, ChannelStrip> in processing order
     */
    private function notAfter(array $strips): array
    {
        $routes = SessionGraph::routes($this->session);
        $after = $strips;
        $others = [];
        foreach ($this->strips as $id => $strip) {
            if (! isset($after[$id]) && array_intersect_key(array_flip($routes->sources((string) $id)), $after) === []) {
                $others[$id] = $strip;
            } else {
                $after[$id] = $strip;
            }
        }

        return $others;
    }

    /**
     * Channels nobody hears, see {@see Sleepers}.
     *
     * @param  array<array-key, true>  $wanted  channels somebody listens to, by id
     * @param  array<array-key, true>  $wantedSources  frozen channels somebody listens to at the source, by id
     * @return array<string, true> by channel id
     */
    public function asleep(array $wanted, array $wantedSources): array
    {
        $frozen = array_filter(array_map(static fn (Strip $strip): bool => $strip->isFrozen(), $this->all()));

        return Sleepers::of($this->session, $frozen, array_map(strval(...), array_keys($this->all())), $wanted, $wantedSources);
    }

    /**
     * Samples to run before a range, so that it sounds as within the whole: what still sounds from before, and what dynamics remember.
     */
    public function preRoll(): int
    {
        return $this->tail() + self::MEMORY_SECONDS * $this->session->sampleRate;
    }

    /** @return array<string, int> samples each channel can sound on, with what feeds it, by channel id */
    public function tails(): array
    {
        $tails = [];
        foreach ($this->all() as $id => $strip) {
            $tails[$id] = $strip->tail($tails);
        }

        return $tails;
    }

    /** Longest tail of the session in samples. */
    public function tail(): int
    {
        $latest = 0;
        foreach ($this->all() as $id => $strip) {
            $latest = max($latest, $this->arrival((string) $id) + $strip->latency());
        }

        return max([0, ...array_values($this->tails())]) + $latest;
    }
}
