<?php

declare(strict_types=1);

namespace Hafen\Engine\Parallel;

use Hafen\Engine\Monitoring;
use Hafen\Engine\ProcessingCost;
use Hafen\Routing\Route;
use Hafen\Routing\SessionGraph;
use Hafen\Routing\SumBanks;
use Hafen\Routing\UnitPlaces;
use Hafen\Session\Session;
use Hafen\Session\Source\LiveSource;

/**
 * What other processes work of a session.
 *
 * They get only channels whose sound comes from their own channels: sound crosses once, towards the process that works the main. Where
 * what feeds a bus comes from one of them, it sums it. What channels cost is estimated from what their processors were measured to take
 * ({@see ProcessingCost}); the figures are per cent of a core.
 */
final readonly class Cut
{
    /** Reading, fader, pan and meters of a stereo channel. */
    private const CHANNEL = 0.45;

    /** A send or an output, where it is summed. */
    private const ROUTE = 0.05;

    /** To take a sum out of the shared memory. */
    private const TAKING = 0.35;

    /** As much as one process may be given, where their number is not set: less than half a core, as playing is not even. */
    private const ENOUGH = 40.0;

    /**
     * Where a live input is heard, channels that wait for the interface are worked in blocks as short as its buffer, and take so many
     * times as long (as measured, 128 frames for 512).
     */
    private const SHORT_BLOCKS = 1.8;

    /** @param  list<Part>  $parts  one for each of the other processes */
    private function __construct(public array $parts)
    {
    }

    public static function nothing(): self
    {
        return new self([]);
    }

    /** Cuts a session for so many processes, this one included. */
    public static function into(int $processes, Session $session): self
    {
        if ($processes < 2) {
            return self::nothing();
        }
        $costs = self::costs($session);
        $share = array_sum($costs) / $processes;
        $banks = SessionGraph::sumBanks($session);
        /** @var array<int, array{cost: float, channels: list<string>}> $inBanks trees by the bank of their last channel */
        $inBanks = [];
        $loads = array_fill(0, $processes, 0.0);
        $loads[0] = array_sum($costs);
        foreach (self::trees($session, $costs, $share / 2) as ['cost' => $cost, 'channels' => $channels]) {
            $bank = $banks->bank($channels[count($channels) - 1]);
            $inBanks[$bank] ??= ['cost' => 0.0, 'channels' => []];
            $inBanks[$bank]['cost'] += $cost;
            $inBanks[$bank]['channels'] = [...$inBanks[$bank]['channels'], ...$channels];
            $loads[0] -= $cost;
        }
        $loads[0] += self::TAKING * ($processes - 1);
        // Banks that stand beside each other go to one process, so that it can sum them.
        ksort($inBanks);
        $left = $loads[0] + array_sum(array_column($inBanks, 'cost'));
        $process = 0;
        /** @var array<int, list<string>> $parts */
        $parts = [];
        foreach ($inBanks as ['cost' => $cost, 'channels' => $channels]) {
            // What is left is shared by the processes that are left; each is filled to where it comes nearest to its share.
            $wanted = $left / ($processes - $process);
            if ($process < $processes - 1 && $loads[$process] > 0.0 && $wanted < $loads[$process] + $cost / 2) {
                $left -= $loads[$process];
                ++$process;
            }
            $loads[$process] += $cost;
            if ($process > 0) {
                $parts[$process] = [...$parts[$process] ?? [], ...$channels];
            }
        }

        return new self(array_map(static fn (array $channels): Part => self::part($session, $channels), array_values($parts)));
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

    /** The same for another revision: what came is worked here, and what others feed now comes back. */
    public function after(Session $session): self
    {
        $routes = SessionGraph::routes($session);

        return new self(array_map(static function (Part $part) use ($routes, $session): Part {
            $there = array_fill_keys(array_filter($part->channels, static fn (string $id): bool => $session->channel($id) !== null && ! self::needsInterface($session, $id)), true);
            foreach (array_keys($there) as $id) {
                if (array_diff_key(array_flip($routes->needed((string) $id)), $there) !== []) {
                    unset($there[$id]);
                }
            }
            $channels = array_map(strval(...), array_keys($there));

            return new Part($channels, array_values(array_filter($part->sums, static fn (SumKey $key): bool => ! isset($there[$key->bus]) && self::feedsOf($session, $channels, $key) > 0)));
        }, $this->parts));
    }

    /** @return list<string> channels that are worked or summed by another process with the next revision */
    public function moving(Session $before, Session $session): array
    {
        $next = $this->after($session);
        $moved = array_diff($this->channels(), $next->channels());
        $owners = $next->owners($session);
        foreach ($this->owners($before) as $route => [$from, $owner]) {
            if (isset($owners[$route]) && $owners[$route][1] !== $owner) {
                $moved[] = $from;
            }
        }

        return array_values(array_unique(array_filter($moved, static fn (string $id): bool => $session->channel($id) !== null)));
    }

    /** @return list<string> */
    public function channels(): array
    {
        return array_merge(...array_map(static fn (Part $part): array => $part->channels, $this->parts));
    }

    /** @return array<string, array{string, int}> by route id, where it comes from and the number of the part that sums it; -1 is here */
    private function owners(Session $session): array
    {
        $banks = SessionGraph::sumBanks($session);
        $owners = [];
        foreach (SessionGraph::routes($session)->all() as $route) {
            $owners[$route->id()] = [$route->from, -1];
            foreach ($this->parts as $number => $part) {
                $sums = array_filter($part->sums, static fn (SumKey $key): bool => $key->bus === $route->to && $key->has($banks->bank($route->from)));
                if ($sums !== [] || in_array($route->to, $part->channels, true)) {
                    $owners[$route->id()] = [$route->from, $number];
                }
            }
        }

        return $owners;
    }

    /** @param  list<string>  $channels  ids */
    private static function part(Session $session, array $channels): Part
    {
        $sums = [];
        foreach ($session->channels as $bus) {
            if (! in_array($bus->id, $channels, true) && $bus->source->tapped() === null) {
                $sums = [...$sums, ...self::sums($session, $channels, new SumKey($bus->id, 0, SumBanks::COUNT))];
            }
        }

        return new Part($channels, $sums);
    }

    /**
     * The largest sums of what feeds a bus that these channels make up.
     *
     * @param  list<string>  $channels  ids
     * @return list<SumKey>
     */
    private static function sums(Session $session, array $channels, SumKey $key): array
    {
        $whole = self::feedsOf($session, $channels, $key);
        if ($whole !== null || $key->count === 1) {
            // What is alone crosses as it is: others may take it as well.
            return $whole > 1 ? [$key] : [];
        }
        $each = intdiv($key->count, SumBanks::AT_A_TIME);
        $sums = [];
        for ($first = $key->first; $first < $key->first + $key->count; $first += $each) {
            $sums = [...$sums, ...self::sums($session, $channels, new SumKey($key->bus, $first, $each))];
        }

        return $sums;
    }

    /**
     * How many feeds a sum has, where all of them come from these channels; null where others feed it as well.
     *
     * @param  list<string>  $channels  ids
     */
    private static function feedsOf(Session $session, array $channels, SumKey $key): ?int
    {
        $banks = SessionGraph::sumBanks($session);
        $feeds = array_filter(SessionGraph::routes($session)->into($key->bus), static fn (Route $route): bool => $key->has($banks->bank($route->from)));

        return array_filter($feeds, static fn (Route $route): bool => ! in_array($route->from, $channels, true)) === [] ? count($feeds) : null;
    }

    /** @return array<array-key, float> by channel id, in processing order */
    private static function costs(Session $session): array
    {
        $routes = SessionGraph::routes($session);
        $isLive = Monitoring::isLive($session);
        $costs = $waiting = [];
        foreach ($routes->order() as $id) {
            $channel = $session->channel($id);
            if ($channel === null) {
                continue;
            }
            $costs[$id] = self::CHANNEL + self::ROUTE * count($routes->into($id)) + ($channel->off ? 0.0 : ProcessingCost::of($channel));
            if ($isLive && (self::needsInterface($session, $id) || array_intersect_key($waiting, array_flip($routes->sources($id))) !== [])) {
                $waiting[$id] = true;
                $costs[$id] *= self::SHORT_BLOCKS;
            }
        }

        return $costs;
    }

    /** Whether a channel is worked where the main is: there the audio interface is, for what comes in and for hardware loops. */
    private static function needsInterface(Session $session, string $channel): bool
    {
        return $session->channel($channel)?->source instanceof LiveSource || UnitPlaces::has($session, $channel);
    }

    /**
     * Channels with all that feeds them, which can be worked together elsewhere. A bus is worked with what feeds it
     * where that is a small part of what one process is to be given; larger ones are shared out, and summed where they are worked.
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
            $sources = $routes->sources((string) $id);
            $feeding = array_intersect_key($treeOf, array_flip($sources));
            $joined = array_intersect_key($trees, array_flip($feeding));
            $whole = $cost + array_sum(array_column($joined, 'cost'));
            $isWhole = count($feeding) === count(array_unique($sources));
            if (self::needsInterface($session, (string) $id) || ! $isWhole || ($sources !== [] && $whole > $most) || (string) $id === $session->main()->id) {
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

        return array_values($trees);
    }
}
