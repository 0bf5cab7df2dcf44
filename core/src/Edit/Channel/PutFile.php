<?php

declare(strict_types=1);

namespace Hafen\Edit\Channel;

use Hafen\Edit\Channels;
use Hafen\Edit\Edit;
use Hafen\Edit\Refusals\OnlyTracksCarryClips;
use Hafen\Session\Session;
use Hafen\Session\Source\ClipSource;

/** Puts a file on a track in place of what it plays now; the session grows to hold it. */
final readonly class PutFile implements Edit
{
    public function __construct(public string $channel, public NewFile $file)
    {
    }

    public function apply(Session $session): Session
    {
        $channel = Channels::find($session, $this->channel);
        if (! $channel->source instanceof ClipSource) {
            throw OnlyTracksCarryClips::not($channel->name);
        }
        $clip = $this->file->clip();

        return $session
            ->withChannel($channel->withClips([$clip])->withWidth($this->file->width))
            ->withLength(max($session->length, $clip->end()));
    }

    public function label(Session $before): string
    {
        return 'File on '.Channels::named($before, [$this->channel]);
    }

    public function touches(Session $before): array
    {
        return ["channels/{$this->channel}/source"];
    }
}
