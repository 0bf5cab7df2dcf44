<?php

declare(strict_types=1);

namespace Hafen\Routing;

use Hafen\Session\Channel\TapPoint;
use Hafen\Session\Session;

/** Channels that need not be worked while others are frozen or switched off: nobody hears them. */
final class Sleepers
{
    /**
     * Channels whose sound leads only to frozen channels, which do not read it, and to others that sleep.
     *
     * @param  array<array-key, true>  $frozen  and those that are switched off, by id
     * @param  list<string>  $order  ids of the channels there are, in processing order
     * @param  array<array-key, true>  $wanted  channels somebody listens to, by id
     * @param  array<array-key, true>  $wantedSources  frozen channels somebody listens to at the source, by id
     * @return array<string, true> by id
     */
    public static function of(Session $session, array $frozen, array $order, array $wanted = [], array $wantedSources = []): array
    {
        if ($frozen === []) {
            return [];
        }
        $routes = SessionGraph::routes($session);
        $there = array_flip($order);
        $asleep = [];
        foreach (array_reverse($order) as $id) {
            $leads = array_filter([...$routes->outOf($id), ...$routes->sidechainsOutOf($id)], static fn (Route $route): bool => isset($there[$route->to]));
            $heard = array_filter($leads, static fn (Route $route): bool => ! isset($asleep[$route->to])
                && (! isset($frozen[$route->to]) || isset($wantedSources[$route->to]) || self::isRead($session, $routes, $route)));
            if ($leads !== [] && $heard === [] && ! isset($wanted[$id])) {
                $asleep[$id] = true;
            }
        }

        return $asleep;
    }

    /** Whether a frozen channel reads what a route brings: after its fader, or as others take it at its source. */
    private static function isRead(Session $session, Routes $routes, Route $route): bool
    {
        if ($route->kind === RouteKind::Sidechain) {
            return $route->isBehindFader($session);
        }
        if ($session->channel($route->to)->off ?? false) {
            return false;
        }
        $taken = [...$routes->outOf($route->to), ...$routes->sidechainsOutOf($route->to)];

        return array_filter($taken, static fn (Route $out): bool => $out->tap === TapPoint::Source) !== [];
    }
}
