<?php

declare(strict_types=1);

namespace Hafen\Edit\Channel;

use Hafen\Edit\Channels;
use Hafen\Edit\Edit;
use Hafen\Edit\Refusals\FeedsAnother;
use Hafen\Edit\Refusals\MainStays;
use Hafen\Edit\Refusals\NothingSelected;
use Hafen\Edit\Split\Branches;
use Hafen\Session\Channel\ChannelKind;
use Hafen\Session\Channel\Send;
use Hafen\Session\Session;

/**
 * Takes channels out of the session, and the sends to them; what put out to them goes on to where they put out. Their
 * files stay in the library.
 */
final readonly class RemoveChannels implements Edit
{
    /** @param  list<string>  $channels */
    public function __construct(public array $channels)
    {
    }

    public function apply(Session $session): Session
    {
        if ($this->channels === []) {
            throw NothingSelected::atAll();
        }
        foreach ($this->channels as $id) {
            $channel = Channels::find($session, $id);
            if ($channel->kind === ChannelKind::Main) {
                throw MainStays::named($channel->name);
            }
        }

        $stay = [];
        foreach ($session->channels as $channel) {
            if (in_array($channel->id, $this->channels, true)) {
                continue;
            }
            $tapped = $channel->source->tapped();
            if ($tapped !== null && in_array($tapped->channel, $this->channels, true)) {
                throw FeedsAnother::from(Channels::find($session, $tapped->channel)->name, $channel->name);
            }
            $output = $channel->output;
            while (in_array($output, $this->channels, true)) {
                $output = Channels::find($session, $output)->output;
            }
            $stay[] = $channel->withOutput($output)->withSends(array_values(array_filter(
                $channel->sends,
                fn (Send $send): bool => ! in_array($send->to, $this->channels, true),
            )))->withPerformer($channel->performer?->withTracks(array_values(array_diff($channel->performer->tracks, $this->channels))));
        }

        return $session->withChannels($stay);
    }

    public function label(Session $before): string
    {
        return 'Remove '.Channels::named($before, $this->channels);
    }

    public function touches(Session $before): array
    {
        $paths = ['order'];
        foreach ($this->channels as $id) {
            $paths[] = "channels/{$id}";
            $removed = $before->channel($id);
            foreach ($removed === null ? [] : [...$removed->inserts, ...$removed->postInserts] as $insert) {
                array_push($paths, ...Branches::within($insert));
            }
            foreach ($removed->sends ?? [] as $send) {
                $paths[] = "sends/{$send->id}";
            }
        }
        foreach ($before->channels as $channel) {
            if (in_array($channel->output, $this->channels, true)) {
                $paths[] = "channels/{$channel->id}/output";
            }
            foreach ($channel->sends as $send) {
                if (in_array($send->to, $this->channels, true)) {
                    $paths[] = "sends/{$send->id}";
                }
            }
        }

        return $paths;
    }
}
