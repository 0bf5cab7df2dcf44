<?php

declare(strict_types=1);

namespace Hafen\Engine;

use Hafen\Routing\Route;

/** What feeds a channel, where all of it or a part is known and need not be worked: that, and the routes that are summed beside it. */
final readonly class KnownInput
{
    /**
     * @param  list<Contribution>  $known
     * @param  list<string>  $routes  ids of routes, see {@see Route::id()}
     */
    public function __construct(private array $known, private array $routes = [])
    {
    }

    public function sums(Route $route): bool
    {
        return in_array($route->id(), $this->routes, true);
    }

    /** What is known and a sum of feeds as one; null where there is neither. */
    public function with(?Contribution $feeds): ?Contribution
    {
        return PartialSum::together($feeds === null ? $this->known : [...$this->known, $feeds]);
    }
}
