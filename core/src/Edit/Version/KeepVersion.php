<?php

declare(strict_types=1);

namespace Hafen\Edit\Version;

use Hafen\Edit\Channels;
use Hafen\Edit\Edit;
use Hafen\Session\Session;

/** Keeps the present clips of a track as a version. */
final readonly class KeepVersion implements Edit
{
    public function __construct(public string $channel, public string $name)
    {
    }

    public function apply(Session $session): Session
    {
        return $session->withChannel(Versions::keep(Versions::track($session, $this->channel), $this->name));
    }

    public function label(Session $before): string
    {
        return "Keep {$this->name} of ".Channels::named($before, [$this->channel]);
    }

    public function touches(Session $before): array
    {
        return ["channels/{$this->channel}/versions"];
    }
}
