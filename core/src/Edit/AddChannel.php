<?php

declare(strict_types=1);

namespace Hafen\Edit;

use Hafen\Session\Channel;
use Hafen\Session\ChannelKind;
use Hafen\Session\ClipSource;
use Hafen\Session\Session;
use Hafen\Session\Width;

/** Adds a track after the others, with a file on it or empty; the session grows to hold it. */
final readonly class AddChannel implements Edit
{
    public const MOST = 512;

    public function __construct(public string $name, public Width $width = Width::Stereo, public ?NewFile $file = null)
    {
    }

    public function apply(Session $session): Session
    {
        if (count($session->channels) >= self::MOST) {
            throw EditRefused::tooManyChannels(self::MOST);
        }
        $track = new Channel(
            $session->freeChannelId($this->name),
            ChannelKind::Track,
            $this->name,
            $this->file->width ?? $this->width,
            new ClipSource($this->file === null ? [] : [$this->file->clip()]),
            output: $session->main()->id,
        );
        $channels = [];
        foreach ($session->channels as $channel) {
            if ($channel->kind === ChannelKind::Main) {
                $channels[] = $track;
            }
            $channels[] = $channel;
        }

        return $session->withChannels($channels)->withLength(max($session->length, $this->file?->clip()->end() ?? 0));
    }

    public function label(Session $before): string
    {
        return "Add {$this->name}";
    }

    public function touches(Session $before): array
    {
        return ['channels/'.$before->freeChannelId($this->name), 'order'];
    }
}
