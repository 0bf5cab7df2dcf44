<?php

declare(strict_types=1);

namespace Hafen\Edit\Channel;

use Hafen\Edit\Channels;
use Hafen\Edit\Edit;
use Hafen\Edit\Note\NoteClips;
use Hafen\Note\NoteClip;
use Hafen\Routing\SessionGraph;
use Hafen\Session\Channel\Channel;
use Hafen\Session\Channel\ChannelKind;
use Hafen\Session\Channel\InterfacePorts;
use Hafen\Session\Channel\Width;
use Hafen\Session\FreshIds;
use Hafen\Session\Insert\ProcessorInsert;
use Hafen\Session\Session;
use Hafen\Session\Source\BusSource;
use Hafen\Session\Source\ClipSource;
use Hafen\Session\Source\NoteSource;
use Hafen\Session\Source\Source;
use Hafen\Session\Source\TapSource;

/**
 * Adds a channel after the others of its kind: a track with a file on it, fed by another channel's tap, or empty; a group;
 * a note channel, with a clip of notes or without, and a synthesiser; a return, which is solo-safe; a cue, on the first interface pair that is free. What takes its sound from the main goes
 * nowhere at first, as it cannot go back there. The session grows to hold a file.
 */
final readonly class AddChannel implements Edit
{
    /** What plays the notes of a new note channel. */
    private const INSTRUMENT = 'synthesiser';

    public function __construct(
        public string $name,
        public Width $width = Width::Stereo,
        public ?NewFile $file = null,
        public ChannelKind $kind = ChannelKind::Track,
        public ?TapSource $tap = null,
        public ?NoteClip $notes = null,
    ) {
    }

    public function apply(Session $session): Session
    {
        if ($this->tap !== null) {
            Channels::find($session, $this->tap->channel);
        }
        $channel = new Channel(
            $session->freeChannelId($this->name),
            $this->kind,
            $this->name,
            $this->file->width ?? $this->width,
            $this->source(),
            inserts: $this->kind === ChannelKind::Note ? [new ProcessorInsert(FreshIds::of($session)->insert(), self::INSTRUMENT)] : [],
            soloSafe: $this->kind === ChannelKind::Return,
            output: $this->kind === ChannelKind::Cue ? InterfacePorts::freePair($session) ?? 'none' : $session->main()->id,
        );

        $grown = NewChannels::put($session, $channel)->withLength(max($session->length, $this->file?->clip()->end() ?? 0));

        $grown = $this->kind === ChannelKind::Note ? NoteClips::grown($grown, $channel->id) : $grown;

        return SessionGraph::routes($grown)->loop() === null ? $grown : $grown->withChannel($channel->withOutput('none'));
    }

    public function label(Session $before): string
    {
        return "Add {$this->name}";
    }

    public function touches(Session $before): array
    {
        $id = $before->freeChannelId($this->name);

        return ["channels/{$id}", 'order', ...($this->notes === null ? [] : ['tempo']), ...($this->tap === null ? [] : ["channels/{$this->tap->channel}/feeds/{$id}"])];
    }

    private function source(): Source
    {
        return match (true) {
            $this->kind->isBus() => new BusSource,
            $this->kind === ChannelKind::Note => new NoteSource($this->notes === null ? [] : [$this->notes]),
            $this->tap !== null => $this->tap,
            default => new ClipSource($this->file === null ? [] : [$this->file->clip()]),
        };
    }
}
