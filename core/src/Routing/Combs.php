<?php

declare(strict_types=1);

namespace Hafen\Routing;

use Hafen\Processor\ProcessorCatalogue;
use Hafen\Session\Insert\Branch;
use Hafen\Session\Insert\Split;
use Hafen\Session\Session;

/**
 * Where alignment is off: what comes out of time, and the first notch that makes where equal sound meets.
 *
 * Source: a copy that is t late cancels its original at 1/(2t) (theory).
 */
final class Combs
{
    /** @return list<Comb> */
    public static function of(Session $session, ProcessorCatalogue $processors, Alignment $alignment): array
    {
        $rows = new RowLatency($processors, $session);
        $combs = [];
        foreach (SessionGraph::routes($session)->all() as $route) {
            $offset = $alignment->offsets[$route->id()] ?? 0;
            if ($offset !== 0) {
                $combs[] = new Comb($route->from, $session->channel($route->to)->name ?? $route->to, null, $offset, $session->sampleRate);
            }
        }
        foreach ($session->channels as $channel) {
            foreach ($channel->aligned ? [] : $channel->allInserts() as $insert) {
                if (! $insert instanceof Split) {
                    continue;
                }
                $heard = array_filter($insert->branches, $insert->isHeard(...));
                $latency = array_map(static fn (Branch $branch): int => $rows->of($branch->inserts), $heard);
                $offset = $latency === [] ? 0 : max($latency) - min($latency);
                if ($offset !== 0) {
                    $combs[] = new Comb($channel->id, 'the join', $insert->id, $offset, $session->sampleRate);
                }
            }
        }

        return $combs;
    }
}
