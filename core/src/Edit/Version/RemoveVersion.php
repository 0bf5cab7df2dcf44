<?php

declare(strict_types=1);

namespace Hafen\Edit\Version;

use Hafen\Edit\Channels;
use Hafen\Edit\Edit;
use Hafen\Session\Session;

/** Lets go of a version of a track. */
final readonly class RemoveVersion implements Edit
{
    public function __construct(public string $channel, public string $version)
    {
    }

    public function apply(Session $session): Session
    {
        $channel = Versions::track($session, $this->channel);

        return $session->withChannel(Versions::without($channel, Versions::find($channel, $this->version)->id));
    }

    public function label(Session $before): string
    {
        return 'Remove a version of '.Channels::named($before, [$this->channel]);
    }

    public function touches(Session $before): array
    {
        return ["channels/{$this->channel}/versions"];
    }
}
