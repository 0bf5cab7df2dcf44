<?php

declare(strict_types=1);

namespace Hafen\Edit;

use Hafen\Session\Channel;
use Hafen\Session\ChannelKind;
use Hafen\Session\Session;

/** Takes channels out of the session; their files stay in the library. */
final readonly class RemoveChannels implements Edit
{
    /** @param  list<string>  $channels */
    public function __construct(public array $channels)
    {
    }

    public function apply(Session $session): Session
    {
        if ($this->channels === []) {
            throw EditRefused::nothingSelected();
        }
        foreach ($this->channels as $id) {
            $channel = Channels::find($session, $id);
            if ($channel->kind === ChannelKind::Main) {
                throw EditRefused::mainStays($channel->name);
            }
        }

        return $session->withChannels(array_values(array_filter(
            $session->channels,
            fn (Channel $channel): bool => ! in_array($channel->id, $this->channels, true),
        )));
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
            foreach ($before->channel($id)?->allInserts() ?? [] as $insert) {
                $paths[] = "inserts/{$insert->id()}";
            }
        }

        return $paths;
    }
}
