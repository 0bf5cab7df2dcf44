<?php

declare(strict_types=1);

namespace Hafen\Routing;

use Hafen\Session\Channel;
use Hafen\Session\ChannelKind;
use Hafen\Session\Session;

/**
 * Which channels are heard, by mute and solo: a muted one never; while anything is soloed only what is soloed, solo-safe,
 * upstream of a soloed bus or downstream of a soloed channel.
 */
final readonly class Audibility
{
    /** @param  array<string, bool>  $audible */
    private function __construct(private array $audible)
    {
    }

    public static function of(Session $session): self
    {
        $soloed = array_filter($session->channels, static fn (Channel $channel): bool => $channel->solo);
        $audible = [];
        foreach ($session->channels as $channel) {
            $audible[$channel->id] = ! $channel->mute && (
                $soloed === []
                || $channel->solo
                || $channel->soloSafe
                || $channel->kind === ChannelKind::Main
                || ($session->channel($channel->output)->solo ?? false)
            );
        }

        return new self($audible);
    }

    public function has(string $channelId): bool
    {
        return $this->audible[$channelId] ?? false;
    }
}
