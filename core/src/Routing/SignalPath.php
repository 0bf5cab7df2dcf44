<?php

declare(strict_types=1);

namespace Hafen\Routing;

use Hafen\Session\Channel\Channel;
use Hafen\Session\Session;

/** The complete signal path of a channel, upstream and downstream. */
final readonly class SignalPath
{
    /**
     * @param  list<Channel>  $channels  each after all that feed it
     * @param  list<Route>  $routes  between them, in the order of the channels they start from
     */
    private function __construct(public Channel $channel, public array $channels, public array $routes)
    {
    }

    public static function of(Session $session, Channel $channel): self
    {
        $routes = SessionGraph::routes($session);
        $upstream = [$channel->id, ...$routes->upstream($channel->id)];
        $downstream = [$channel->id, ...$routes->downstream($channel->id)];
        $channels = $passed = [];
        foreach ($routes->order() as $id) {
            $member = $session->channel($id);
            $isUp = in_array($id, $upstream, true);
            if ($member === null || (! $isUp && ! in_array($id, $downstream, true))) {
                continue;
            }
            $channels[] = $member;
            foreach ($routes->outOf($id) as $route) {
                // What leads up to the channel, or on from it; not what others of its path do besides.
                if (in_array($route->to, $isUp ? $upstream : $downstream, true) || ($id === $channel->id && in_array($route->to, $downstream, true))) {
                    $passed[] = $route;
                }
            }
        }

        return new self($channel, $channels, $passed);
    }
}
