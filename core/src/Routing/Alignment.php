<?php

declare(strict_types=1);

namespace Hafen\Routing;

use Hafen\Processor\ProcessorCatalogue;
use Hafen\Session\Channel\Channel;
use Hafen\Session\Channel\TapPoint;
use Hafen\Session\Session;
use Hafen\Session\Source\LiveSource;
use Hafen\Session\Source\NoteSource;

/**
 * Latency compensation: the latency at each channel, and the delay of each route so that
 * everything meets there in time. All in samples.
 */
final readonly class Alignment
{
    /**
     * @param  array<string, int>  $row  latency of each channel's inserts before the fader, by its id
     * @param  array<string, int>  $own  latency of all of each channel's inserts, by its id
     * @param  array<string, int>  $arrival  how late the sound is that enters each channel, by its id
     * @param  array<string, int>  $delays  of each route that is lined up, by its key
     * @param  array<string, int>  $offsets  by how much each route that is not lined up comes after the others, by its key
     * @param  int  $session  how late the main's output is
     */
    private function __construct(
        public array $row,
        public array $own,
        public array $arrival,
        public array $delays,
        public array $offsets,
        public int $session,
    ) {
    }

    public static function of(Session $session, ProcessorCatalogue $processors): self
    {
        $rows = new RowLatency($processors, $session);
        $before = $own = [];
        foreach ($session->channels as $channel) {
            $before[$channel->id] = $rows->of($channel->inserts);
            $own[$channel->id] = $before[$channel->id] + $rows->of($channel->postInserts);
        }
        $routes = SessionGraph::routes($session);
        $arrival = $delays = $offsets = [];
        foreach ($routes->order() as $id) {
            // Sidechains are aligned like audible routes.
            $aligned = $others = [];
            $arrival[$id] = 0;
            $isLive = $session->channel($id)?->source instanceof LiveSource;
            foreach ([...$routes->into($id), ...$routes->sidechainsInto($id)] as $route) {
                $latency = $arrival[$route->from] + match ($route->tap) {
                    TapPoint::Source => 0,
                    TapPoint::PreFader => $before[$route->from],
                    TapPoint::PostFader => $own[$route->from],
                };
                if (! $isLive && self::waits($session->channel($route->from))) {
                    $aligned[$route->id()] = $latency;
                    $arrival[$id] = max($arrival[$id], $latency);
                } else {
                    $others[$route->id()] = $latency;
                }
            }
            foreach ($aligned as $key => $latency) {
                $delays[$key] = $arrival[$id] - $latency;
            }
            foreach ($others as $key => $latency) {
                $offsets[$key] = $latency - $arrival[$id];
            }
        }
        $main = $session->main()->id;

        return new self($before, $own, $arrival, $delays, $offsets, $arrival[$main] + $own[$main]);
    }

    /** Whether what leaves a channel waits for what comes later: live inputs and keys do not, so that they are heard at once. */
    private static function waits(?Channel $channel): bool
    {
        $isLive = $channel?->source instanceof LiveSource || ($channel?->source instanceof NoteSource && $channel->source->isPlayed);

        return $channel === null || ($channel->aligned && ! $isLive);
    }

    public function delay(Route $route): int
    {
        return $this->delays[$route->id()] ?? 0;
    }
}
