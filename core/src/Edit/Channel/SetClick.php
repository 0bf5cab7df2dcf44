<?php

declare(strict_types=1);

namespace Hafen\Edit\Channel;

use Hafen\Edit\Channels;
use Hafen\Edit\Edit;
use Hafen\Edit\Refusals\NotACue;
use Hafen\Session\Channel\ChannelKind;
use Hafen\Session\Session;

/** Has a cue hear the click, at a level in dBFS, or no longer. */
final readonly class SetClick implements Edit
{
    public function __construct(public string $cue, public ?float $click)
    {
    }

    public function apply(Session $session): Session
    {
        $channel = Channels::find($session, $this->cue);

        return $channel->kind === ChannelKind::Cue ? $session->withChannel($channel->withClick($this->click)) : throw NotACue::toClick($channel->name);
    }

    public function label(Session $before): string
    {
        return ($this->click === null ? 'No click in ' : 'Click in ').Channels::named($before, [$this->cue]);
    }

    public function touches(Session $before): array
    {
        return ["channels/{$this->cue}/click"];
    }
}
