<?php

declare(strict_types=1);

namespace Hafen\Edit\Channel;

use Hafen\Edit\Channels;
use Hafen\Edit\Edit;
use Hafen\Edit\Refusals\MainStays;
use Hafen\Session\Channel\Channel;
use Hafen\Session\Channel\ChannelKind;
use Hafen\Session\Session;

/** Moves a track to another place among the tracks, counted from 0. */
final readonly class MoveChannel implements Edit
{
    public function __construct(public string $channel, public int $to)
    {
    }

    public function apply(Session $session): Session
    {
        $moved = Channels::find($session, $this->channel);
        if ($moved->kind === ChannelKind::Main) {
            throw MainStays::named($moved->name);
        }
        $others = array_values(array_filter($session->channels, fn (Channel $channel): bool => $channel->id !== $this->channel));
        $tracks = count(array_filter($others, static fn (Channel $channel): bool => $channel->kind !== ChannelKind::Main));
        array_splice($others, max(0, min($this->to, $tracks)), 0, [$moved]);

        return $session->withChannels($others);
    }

    public function label(Session $before): string
    {
        return 'Move '.Channels::named($before, [$this->channel]);
    }

    public function touches(Session $before): array
    {
        return ['order', "channels/{$this->channel}/place"];
    }
}
