<?php

declare(strict_types=1);

namespace Hafen\Edit\Channel;

use Hafen\Edit\Channels;
use Hafen\Edit\Edit;
use Hafen\Session\Session;

/** Gives a channel another name; its id stays. */
final readonly class RenameChannel implements Edit
{
    public function __construct(public string $channel, public string $name)
    {
    }

    public function apply(Session $session): Session
    {
        return $session->withChannel(Channels::find($session, $this->channel)->withName($this->name));
    }

    public function label(Session $before): string
    {
        return Channels::named($before, [$this->channel])." renamed to {$this->name}";
    }

    public function touches(Session $before): array
    {
        return ["channels/{$this->channel}/name"];
    }
}
