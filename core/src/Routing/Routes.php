<?php

declare(strict_types=1);

namespace Hafen\Routing;

use Hafen\Session\Channel\Channel;
use Hafen\Session\Channel\TapPoint;
use Hafen\Session\Session;

/**
 * All routes between channels, including sends that are switched off.
 *
 * Whatever enters a channel comes before its first tap, so that channels are the finest grain in which a loop can close.
 */
final readonly class Routes
{
    /**
     * @param  list<string>  $channels  ids in the session's order
     * @param  array<string, list<Route>>  $into  by the channel they lead to
     * @param  array<string, list<Route>>  $outOf  by the channel they start from
     */
    private function __construct(private array $channels, private array $into, private array $outOf)
    {
    }

    public static function of(Session $session): self
    {
        $ids = array_map(static fn (Channel $channel): string => $channel->id, $session->channels);
        $into = $outOf = array_fill_keys($ids, []);
        foreach ($session->channels as $channel) {
            foreach (self::startingAt($channel, $session) as $route) {
                if (isset($into[$route->to], $into[$route->from])) {
                    $into[$route->to][] = $route;
                    $outOf[$route->from][] = $route;
                }
            }
        }

        return new self($ids, $into, $outOf);
    }

    /** @return list<Route> */
    public function all(): array
    {
        return array_merge(...array_values($this->outOf));
    }

    /** @return list<Route> that bring sound */
    public function into(string $channel): array
    {
        return self::sounding($this->into[$channel] ?? []);
    }

    /** @return list<Route> that carry sound on */
    public function outOf(string $channel): array
    {
        return self::sounding($this->outOf[$channel] ?? []);
    }

    /** @return list<Route> all by which an insert listens to another channel */
    public function sidechains(): array
    {
        return array_values(array_filter($this->all(), static fn (Route $route): bool => $route->kind === RouteKind::Sidechain));
    }

    /** @return list<Route> to what listens on this channel without its being heard */
    public function sidechainsInto(string $channel): array
    {
        return array_values(array_filter($this->into[$channel] ?? [], static fn (Route $route): bool => $route->kind === RouteKind::Sidechain));
    }

    /** @return list<string> channels that lead to this one directly, or that its inserts listen to */
    public function sources(string $channel): array
    {
        return array_map(static fn (Route $route): string => $route->from, $this->into[$channel] ?? []);
    }

    /** @return list<Route> from this channel to what listens to it */
    public function sidechainsOutOf(string $channel): array
    {
        return array_values(array_filter($this->outOf[$channel] ?? [], static fn (Route $route): bool => $route->kind === RouteKind::Sidechain));
    }

    /**
     * Returns all channels upstream of this one.
     *
     * @param  ?callable(Route): bool  $along  the routes to go; all where it is left out
     * @return list<string>
     */
    public function upstream(string $channel, ?callable $along = null): array
    {
        return self::reach($channel, $this->into, static fn (Route $route): string => $route->from, self::alongSounding($along));
    }

    /**
     * Returns all channels upstream of this one, those its inserts and theirs listen to as well.
     *
     * @return list<string>
     */
    public function needed(string $channel): array
    {
        return self::reach($channel, $this->into, static fn (Route $route): string => $route->from, null);
    }

    /**
     * Returns all channels downstream of this one.
     *
     * @param  ?callable(Route): bool  $along  the routes to go; all where it is left out
     * @return list<string>
     */
    public function downstream(string $channel, ?callable $along = null): array
    {
        return self::reach($channel, $this->outOf, static fn (Route $route): string => $route->to, self::alongSounding($along));
    }

    /**
     * Returns the channels in processing order, otherwise in the session's order.
     *
     * @return list<string> without those in a loop, where there is one
     */
    public function order(): array
    {
        $waiting = array_map(count(...), $this->into);
        $order = [];
        $ready = array_values(array_filter($this->channels, static fn (string $id): bool => $waiting[$id] === 0));
        while ($ready !== []) {
            $id = array_shift($ready);
            $order[] = $id;
            foreach ($this->outOf[$id] ?? [] as $route) {
                if (--$waiting[$route->to] === 0) {
                    $ready[] = $route->to;
                }
            }
        }

        return $order;
    }

    /**
     * Returns the routes of a loop in order, or null.
     *
     * @return ?list<Route>
     */
    public function loop(): ?array
    {
        $free = array_fill_keys($this->order(), true);
        $id = null;
        foreach ($this->channels as $candidate) {
            if (! isset($free[$candidate])) {
                $id = $candidate;
                break;
            }
        }
        if ($id === null) {
            return null;
        }
        // Going back against the sound from a channel that waits for itself must come round, as nothing in a loop is free.
        $back = [];
        $seen = [];
        while (! isset($seen[$id])) {
            $seen[$id] = count($back);
            foreach ($this->into[$id] ?? [] as $route) {
                if (! isset($free[$route->from])) {
                    $back[] = $route;
                    $id = $route->from;
                    break;
                }
            }
        }

        return array_reverse(array_slice($back, $seen[$id]));
    }

    /** @return list<Route> */
    private static function startingAt(Channel $channel, Session $session): array
    {
        $routes = [];
        $tapped = $channel->source->tapped();
        if ($tapped !== null) {
            $routes[] = new Route(RouteKind::Tap, $tapped->channel, $tapped->tap, $channel->id);
        }
        foreach ($channel->allInserts() as $insert) {
            $sidechain = $insert->sidechain();
            if ($sidechain !== null) {
                $routes[] = new Route(RouteKind::Sidechain, $sidechain->channel, $sidechain->tap, $channel->id, null, $insert->id());
            }
        }
        foreach ($channel->sends as $send) {
            $performer = $session->channel($send->to)?->performer;
            $routes[] = new Route(RouteKind::Send, $channel->id, $send->tap, $send->to, $send, performer: $performer === null ? 0.0 : $performer->gainOf($channel->id));
        }
        $routes[] = new Route(RouteKind::Output, $channel->id, TapPoint::PostFader, $channel->output);

        return $routes;
    }

    /**
     * @param  list<Route>  $routes
     * @return list<Route>
     */
    private static function sounding(array $routes): array
    {
        return array_values(array_filter($routes, static fn (Route $route): bool => $route->kind !== RouteKind::Sidechain));
    }

    /**
     * @param  ?callable(Route): bool  $along
     * @return callable(Route): bool
     */
    private static function alongSounding(?callable $along): callable
    {
        return static fn (Route $route): bool => $route->kind !== RouteKind::Sidechain && ($along === null || $along($route));
    }

    /**
     * @param  array<string, list<Route>>  $routes
     * @param  callable(Route): string  $end
     * @param  ?callable(Route): bool  $along
     * @return list<string>
     */
    private static function reach(string $channel, array $routes, callable $end, ?callable $along): array
    {
        $found = [];
        $open = [$channel];
        while ($open !== []) {
            foreach ($routes[array_pop($open)] ?? [] as $route) {
                $id = $end($route);
                if (! isset($found[$id]) && ($along === null || $along($route))) {
                    $found[$id] = true;
                    $open[] = $id;
                }
            }
        }
        unset($found[$channel]);

        return array_map(strval(...), array_keys($found));
    }
}
