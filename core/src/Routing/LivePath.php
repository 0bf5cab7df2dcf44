<?php

declare(strict_types=1);

namespace Hafen\Routing;

use Hafen\Processor\ProcessorCatalogue;
use Hafen\Session\Session;

/** The way a live input takes to the main's output, which it does not wait on for anything else. */
final class LivePath
{
    /**
     * Samples by which each channel on the way makes it late, its own first; those that make it no later are there as well.
     *
     * @param  ?QuickMonitoring  $quick  of its own inserts leaves some out
     * @return list<array{channel: string, samples: int}>
     */
    public static function of(Session $session, ProcessorCatalogue $processors, string $channel, ?QuickMonitoring $quick = null): array
    {
        $track = $session->channel($channel);
        $session = $track === null || $quick === null ? $session : $session->withChannel($quick->of($session, $track));
        $own = SessionGraph::alignment($session, $processors)->own;
        $path = [];
        for ($next = $session->channel($channel); $next !== null; $next = $session->channel($next->output)) {
            $path[] = ['channel' => $next->id, 'samples' => $own[$next->id]];
        }

        return $path;
    }
}
