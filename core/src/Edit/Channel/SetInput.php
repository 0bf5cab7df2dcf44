<?php

declare(strict_types=1);

namespace Hafen\Edit\Channel;

use Hafen\Edit\Channels;
use Hafen\Edit\Edit;
use Hafen\Edit\Refusals\OnlyTracksCarryClips;
use Hafen\Edit\Refusals\PlaysATap;
use Hafen\Session\Session;
use Hafen\Session\Source\ClipSource;
use Hafen\Session\Source\LiveInput;

/** Has a track take an input of the audio interface, or none any more. Its clips stay. */
final readonly class SetInput implements Edit
{
    public function __construct(public string $channel, public ?LiveInput $input)
    {
    }

    public function apply(Session $session): Session
    {
        $channel = Channels::find($session, $this->channel);
        if ($channel->source->tapped() !== null) {
            throw PlaysATap::named($channel->name);
        }
        if (! $channel->source instanceof ClipSource) {
            throw OnlyTracksCarryClips::not($channel->name);
        }

        return $session->withChannel($channel->withSource($channel->source->withInput($this->input)));
    }

    public function label(Session $before): string
    {
        return 'Input of '.Channels::named($before, [$this->channel]);
    }

    public function touches(Session $before): array
    {
        return ["channels/{$this->channel}/input"];
    }
}
