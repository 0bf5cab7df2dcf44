<?php

declare(strict_types=1);

namespace Hafen\Printing;

use Hafen\Routing\Route;
use Hafen\Routing\RouteKind;
use Hafen\Routing\SessionGraph;
use Hafen\Session\Channel\Channel;
use Hafen\Session\Channel\ChannelTrim;
use Hafen\Session\Channel\Send;
use Hafen\Session\Session;

/**
 * Sessions of which only some channels are heard, through all that is behind them. Frozen buses behind them are worked live: what
 * was frozen holds the others as well.
 */
final class Isolation
{
    /**
     * Channels heard alone, as solo lets them be heard; a mute of theirs does not count.
     *
     * @param  list<string>  $channels  ids
     */
    public static function alone(Session $session, array $channels): Session
    {
        $behind = self::behind($session, $channels);

        return $session->withChannels(array_map(
            static function (Channel $one) use ($channels, $behind): Channel {
                $isWanted = in_array($one->id, $channels, true);
                $heard = $one->withSolo($isWanted)->withMute(! $isWanted && $one->mute);

                return $isWanted || ! in_array($one->id, $behind, true) ? $heard : $heard->withFrozen(null);
            },
            $session->channels,
        ));
    }

    /**
     * The part of the main that comes from one channel, returns included: it and what leads into it by its output go where they go,
     * nothing else gets to the main. Mutes and solos stay, and so does what sidechains get. What the main gets from all channels
     * together is the sum of their shares as long as the returns and buses they share are linear.
     *
     * @return Session whose main is to be taken at its source
     */
    public static function share(Session $session, string $channel): Session
    {
        $own = [$channel, ...SessionGraph::routes($session)->upstream($channel, static fn (Route $route): bool => $route->kind === RouteKind::Output)];
        $behind = array_diff(self::behind($session, $own), $own);

        return $session->withChannels(array_map(static fn (Channel $one): Channel => match (true) {
            $one->id === $session->main()->id => $one->withTrim(new ChannelTrim),
            in_array($one->id, $own, true) => $one,
            in_array($one->id, $behind, true) => $one->withFrozen(null),
            default => $one->withOutput('none')->withSends(array_map(static fn (Send $send): Send => $send->withOn(false), $one->sends)),
        }, $session->channels));
    }

    /**
     * Leaves out channels whose output leads through another of them: they are heard in that one.
     *
     * @param  list<string>  $channels  ids
     * @return list<string>
     */
    public static function heardOnce(Session $session, array $channels): array
    {
        $routes = SessionGraph::routes($session);

        return array_values(array_filter($channels, static fn (string $id): bool => array_intersect(
            $routes->downstream($id, static fn (Route $route): bool => $route->kind === RouteKind::Output),
            array_diff($channels, [$id]),
        ) === []));
    }

    /**
     * @param  list<string>  $channels  ids
     * @return list<string> ids of what they lead to by outputs and sends
     */
    private static function behind(Session $session, array $channels): array
    {
        $routes = SessionGraph::routes($session);
        $isPath = static fn (Route $route): bool => $route->kind === RouteKind::Output || $route->kind === RouteKind::Send;

        return array_values(array_unique(array_merge([], ...array_map(static fn (string $id): array => $routes->downstream($id, $isPath), $channels))));
    }
}
