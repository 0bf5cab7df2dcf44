<?php

declare(strict_types=1);

namespace Hafen\Edit\Channel;

use Hafen\Edit\Channels;
use Hafen\Edit\Edit;
use Hafen\Edit\Refusals\CarriesClips;
use Hafen\Edit\Refusals\OnlyTracksCarryClips;
use Hafen\Edit\RoutingRules;
use Hafen\Session\Channel\ChannelKind;
use Hafen\Session\Session;
use Hafen\Session\Source\Source;

/** Has a track without clips play what another channel carries at a tap, or makes it a track for clips again. */
final readonly class SetSource implements Edit
{
    public function __construct(public string $channel, public Source $source)
    {
    }

    public function apply(Session $session): Session
    {
        $channel = Channels::find($session, $this->channel);
        if ($channel->kind !== ChannelKind::Track) {
            throw OnlyTracksCarryClips::not($channel->name);
        }
        if ($channel->source->clips() !== []) {
            throw CarriesClips::named($channel->name);
        }
        $tapped = $this->source->tapped();
        if ($tapped !== null) {
            Channels::find($session, $tapped->channel);
        }

        return RoutingRules::withoutLoop($session->withChannel($channel->withSource($this->source)));
    }

    public function label(Session $before): string
    {
        return 'Source of '.Channels::named($before, [$this->channel]);
    }

    public function touches(Session $before): array
    {
        $paths = ["channels/{$this->channel}/source"];
        $tapped = $this->source->tapped();
        if ($tapped !== null) {
            $paths[] = "channels/{$tapped->channel}/feeds/{$this->channel}";
        }

        return $paths;
    }
}
