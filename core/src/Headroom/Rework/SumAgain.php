<?php

declare(strict_types=1);

namespace Hafen\Headroom\Rework;

use Hafen\Routing\Route;

/** How what feeds a bus is made from its recording: at some scale, with what came along some routes taken out, and what comes along others put in. */
final readonly class SumAgain
{
    /**
     * @param  string  $stage  at which it is recorded
     * @param  float  $scale  from the recording to the sum before the trim
     * @param  list<Route>  $removed  as they were
     * @param  list<Route>  $added  as they are
     */
    public function __construct(public string $stage, public float $scale, public array $removed = [], public array $added = [])
    {
    }

    /** @return list<string> ids of the channels whose sound is taken out */
    public function removedFrom(): array
    {
        return array_map(static fn (Route $route): string => $route->from, $this->removed);
    }

    /**
     * @param  list<Route>  $routes
     * @return list<string>
     */
    public static function ids(array $routes): array
    {
        return array_map(static fn (Route $route): string => $route->id(), $routes);
    }
}
