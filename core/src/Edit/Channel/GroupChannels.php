<?php

declare(strict_types=1);

namespace Hafen\Edit\Channel;

use Hafen\Edit\Channels;
use Hafen\Edit\Edit;
use Hafen\Edit\Refusals\CannotBeGrouped;
use Hafen\Edit\Refusals\NothingSelected;
use Hafen\Edit\RoutingRules;
use Hafen\Session\Channel\Channel;
use Hafen\Session\Channel\ChannelKind;
use Hafen\Session\Channel\Width;
use Hafen\Session\Session;
use Hafen\Session\Source\BusSource;

/**
 * Makes a group above some channels: their outputs go to it, its output where theirs went, or to the main where they went
 * apart. Faders stay; a channel that already feeds another of them goes on doing so.
 */
final readonly class GroupChannels implements Edit
{
    /** @param  list<string>  $channels */
    public function __construct(public array $channels, public string $name = 'Group')
    {
    }

    public function apply(Session $session): Session
    {
        if ($this->channels === []) {
            throw NothingSelected::atAll();
        }
        $outputs = [];
        foreach ($this->channels as $id) {
            $channel = Channels::find($session, $id);
            if ($channel->kind->endsAtInterface()) {
                throw CannotBeGrouped::of($channel->name, $channel->kind->word());
            }
            if (! in_array($channel->output, $this->channels, true)) {
                $outputs[$id] = $channel->output;
            }
        }
        $common = array_values(array_unique(array_values($outputs)));
        $name = NewChannels::name($session, $this->name);
        $group = new Channel(
            $session->freeChannelId($name),
            ChannelKind::Group,
            $name,
            Width::Stereo,
            new BusSource,
            output: count($common) === 1 ? $common[0] : $session->main()->id,
        );

        return RoutingRules::withoutLoop(Channels::each(
            NewChannels::put($session, $group),
            array_map(strval(...), array_keys($outputs)),
            static fn (Channel $channel): Channel => $channel->withOutput($group->id),
        ));
    }

    public function label(Session $before): string
    {
        return 'Group '.Channels::named($before, $this->channels);
    }

    public function touches(Session $before): array
    {
        $id = $before->freeChannelId(NewChannels::name($before, $this->name));

        return ["channels/{$id}", 'order', ...Channels::paths($this->channels, 'output')];
    }
}
