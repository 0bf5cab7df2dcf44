<?php

declare(strict_types=1);

namespace Hafen\Engine;

use Hafen\Routing\Alignment;
use Hafen\Routing\Route;
use Hafen\Routing\RouteKind;
use Hafen\Routing\SessionGraph;
use Hafen\Session\Insert\Insert;
use Hafen\Session\Insert\Inserts;
use Hafen\Session\Session;

/** A compiled session: channel strips in processing order, the feeds between them, and their alignment. */
final readonly class Plan
{
    /**
     * @param  array<string, ChannelStrip>  $strips  by channel id, in the order they are worked
     * @param  array<string, Feed>  $feeds  by route key
     * @param  array<string, string>  $unplayable  why frozen channels play live, by channel id: their file cannot be played
     */
    public function __construct(
        public Session $session,
        public array $strips,
        public array $feeds,
        private Alignment $alignment,
        public array $unplayable = [],
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

    /**
     * Channels nobody hears: all they put out leads to frozen channels, which do not read it, and to others that sleep.
     *
     * @param  array<string, true>  $wanted  channels somebody listens to
     * @param  array<string, true>  $wantedSources  frozen channels somebody listens to at the source
     * @return array<string, true> by channel id
     */
    public function asleep(array $wanted, array $wantedSources): array
    {
        $frozen = array_filter($this->strips, static fn (ChannelStrip $strip): bool => $strip->frozen() !== null);
        if ($frozen === []) {
            return [];
        }
        $routes = SessionGraph::routes($this->session);
        $asleep = [];
        foreach (array_reverse(array_keys($this->strips)) as $id) {
            $id = (string) $id;
            $leads = array_filter([...$routes->outOf($id), ...$routes->sidechainsOutOf($id)], fn (Route $route): bool => isset($this->strips[$route->to]));
            $heard = array_filter($leads, fn (Route $route): bool => ! isset($asleep[$route->to])
                && (! isset($frozen[$route->to]) || $this->isRead($route, isset($wantedSources[$route->to]))));
            if ($leads !== [] && $heard === [] && ! isset($wanted[$id])) {
                $asleep[$id] = true;
            }
        }

        return $asleep;
    }

    /** Whether a frozen channel reads what a route brings. */
    private function isRead(Route $route, bool $isSourceWanted): bool
    {
        $to = $this->session->channel($route->to);
        if ($route->kind === RouteKind::Sidechain) {
            return $to !== null && in_array($route->insert, array_map(static fn (Insert $insert): string => $insert->id(), Inserts::all($to->postInserts)), true);
        }

        return $isSourceWanted || $this->strips[$route->to]->readsSource();
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
