<?php

declare(strict_types=1);

namespace Hafen\Routing;

use Hafen\Session\Channel\ChannelKind;
use Hafen\Session\Session;

/**
 * Which channels are heard, by mute and solo: a muted one never; while anything is soloed only what is soloed, solo-safe,
 * upstream of a soloed bus or downstream of a soloed channel. Cues ignore solo, others' and their own.
 */
final readonly class Audibility
{
    /** @param  array<string, bool>  $audible */
    private function __construct(private array $audible)
    {
    }

    public static function of(Session $session): self
    {
        $soloed = [];
        foreach ($session->channels as $channel) {
            if ($channel->solo && $channel->kind !== ChannelKind::Cue) {
                $soloed[] = $channel->id;
            }
        }
        $routes = SessionGraph::routes($session);
        // A tap before the fader carries sound whether or not its channel is heard, so that channel need not be.
        $feeds = static fn (Route $route): bool => $route->isOn() && ($route->kind !== RouteKind::Tap || $route->tap->followsFader());
        $along = [];
        foreach ($soloed as $id) {
            $along += array_fill_keys([
                $id,
                ...$routes->upstream($id, $feeds),
                ...$routes->downstream($id, static fn (Route $route): bool => $route->isOn()),
            ], true);
        }
        $audible = [];
        foreach ($session->channels as $channel) {
            $audible[$channel->id] = ! $channel->mute && (
                $soloed === []
                || isset($along[$channel->id])
                || $channel->soloSafe
                || $channel->kind === ChannelKind::Main
                || $channel->kind === ChannelKind::Cue
            );
        }

        return new self($audible);
    }

    public function has(string $channelId): bool
    {
        return $this->audible[$channelId] ?? false;
    }
}
