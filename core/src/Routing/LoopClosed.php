<?php

declare(strict_types=1);

namespace Hafen\Routing;

use Hafen\Session\Session;

/** Describes a loop: "Plate -> Wash -> Plate". */
final class LoopClosed
{
    /** @param  non-empty-list<Route>  $loop */
    public static function text(Session $session, array $loop): string
    {
        $names = array_map(static fn (Route $route): string => $session->channel($route->from)->name ?? $route->from, $loop);

        return implode(' -> ', [...$names, $names[0]]);
    }
}
