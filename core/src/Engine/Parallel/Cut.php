<?php

declare(strict_types=1);

namespace Hafen\Engine\Parallel;

use Hafen\Processor\Costs;
use Hafen\Routing\Route;
use Hafen\Routing\SessionGraph;
use Hafen\Session\Channel\Channel;
use Hafen\Session\Insert\Inserts;
use Hafen\Session\Insert\ProcessorInsert;
use Hafen\Session\Session;

/**
 * Which channels of a session are worked by other processes.
 *
 * Others get only channels whose sound comes from their own channels: sound crosses once, towards the process that works the main. What
 * channels cost is estimated from what their processors were measured to take ({@see Costs}); the figures are per cent of a core.
 */
final readonly class Cut
{
    /** Reading, fader, pan and meters of a stereo channel. */
    private const CHANNEL = 0.45;

    /** A send or an output, where it is summed. */
    private const ROUTE = 0.05;

    /** To put the output of a channel into the shared memory, and to take it out. */
    private const GIVING = 0.08;

    private const TAKING = 0.27;

    /** As much as one process may be given, where their number is not set: half a core, as playing is not even. */
    private const ENOUGH = 40.0;

    /** @param  list<list<string>>  $parts  channel ids for each of the other processes */
    private function __construct(public array $parts)
    {
    }

    public static function nothing(): self
    {
        return new self([]);
    }

    /**
     * Cuts a session for so many processes, this one included.
     */
    public static function into(int $processes, Session $session): self
    {
        if ($processes < 2) {
            return self::nothing();
        }
        $costs = self::costs($session);
        $trees = self::trees($session, $costs, array_sum($costs) / $processes);
        $loads = array_fill(0, $processes, 0.0);
        $loads[0] = array_sum($costs) - array_sum(array_column($trees, 'cost'));
        /** @var array<int, list<string>> $parts */
        $parts = [];
        foreach ($trees as ['cost' => $cost, 'channels' => $channels]) {
            // Where it makes the busiest process least busy; what goes elsewhere costs a little more there and here.
            $best = 0;
            $least = INF;
            foreach ($loads as $process => $load) {
                $after = $process === 0 ? $load + $cost : max($load + $cost + self::GIVING, $loads[0] + self::TAKING);
                if ($after < $least) {
                    [$best, $least] = [$process, $after];
                }
            }
            $loads[$best] += $cost;
            if ($best > 0) {
                $loads[$best] += self::GIVING;
                $loads[0] += self::TAKING;
                $parts[$best] = [...$parts[$best] ?? [], ...$channels];
            }
        }

        return new self(array_values($parts));
    }

    /** How many processes a session needs to be played, on so many cores. */
    public static function processesFor(Session $session, int $cores): int
    {
        return max(1, min($cores, (int) ceil(100 * self::load($session) / self::ENOUGH)));
    }

    /** What a session is estimated to take: 1.0 is the whole of one core. */
    public static function load(Session $session): float
    {
        return array_sum(self::costs($session)) / 100;
    }

    /** The same for another revision: channels that came stay here, and those that others feed now come back. */
    public function after(Session $session): self
    {
        $routes = SessionGraph::routes($session);

        return new self(array_map(static function (array $part) use ($routes, $session): array {
            $part = array_fill_keys(array_filter($part, static fn (string $id): bool => $session->channel($id) !== null), true);
            do {
                $before = count($part);
                foreach (array_keys($part) as $id) {
                    if (array_diff_key(array_flip($routes->needed((string) $id)), $part) !== []) {
                        unset($part[$id]);
                    }
                }
            } while (count($part) < $before);

            return array_map(strval(...), array_keys($part));
        }, $this->parts));
    }

    /** @return list<string> */
    public function channels(): array
    {
        return array_merge(...$this->parts);
    }

    /** @return array<array-key, float> by channel id, in processing order */
    private static function costs(Session $session): array
    {
        $routes = SessionGraph::routes($session);
        $costs = [];
        foreach ($routes->order() as $id) {
            $channel = $session->channel($id);
            if ($channel !== null) {
                $costs[$id] = self::CHANNEL + self::ROUTE * count($routes->into($id)) + ($channel->off ? 0.0 : self::ofInserts($channel));
            }
        }

        return $costs;
    }

    private static function ofInserts(Channel $channel): float
    {
        $cost = 0.0;
        foreach (Inserts::all([...($channel->frozen === null ? $channel->inserts : []), ...$channel->postInserts]) as $insert) {
            $cost += $insert instanceof ProcessorInsert && $insert->on ? (Costs::of($insert->processor) ?? 1.0) : 0.1;
        }

        return $cost;
    }

    /**
     * Channels with all that feeds them, which can be worked together elsewhere; the costliest first. A bus is worked with what feeds it
     * where that is not more than one process is to be given.
     *
     * @param  array<array-key, float>  $costs  by channel id, in processing order
     * @return list<array{cost: float, channels: list<string>}>
     */
    private static function trees(Session $session, array $costs, float $most): array
    {
        $routes = SessionGraph::routes($session);
        /** @var array<array-key, int> $treeOf number of the tree of each channel that is in one */
        $treeOf = [];
        $trees = [];
        foreach ($costs as $id => $cost) {
            $sources = array_map(static fn (Route $route): string => $route->from, [...$routes->into((string) $id), ...$routes->sidechainsInto((string) $id)]);
            $feeding = array_intersect_key($treeOf, array_flip($sources));
            $joined = array_intersect_key($trees, array_flip($feeding));
            $whole = $cost + array_sum(array_column($joined, 'cost'));
            $isWhole = count($feeding) === count(array_unique($sources));
            if (! $isWhole || ($sources !== [] && $whole > $most) || (string) $id === $session->main()->id) {
                continue;
            }
            $channels = [...array_merge(...array_column($joined, 'channels')), (string) $id];
            $trees = array_diff_key($trees, $joined);
            $trees[] = ['cost' => $whole, 'channels' => $channels];
            $number = (int) array_key_last($trees);
            foreach ($channels as $channel) {
                $treeOf[$channel] = $number;
            }
        }
        usort($trees, static fn (array $a, array $b): int => $b['cost'] <=> $a['cost']);

        return $trees;
    }
}
