<?php

declare(strict_types=1);

namespace Hafen\Edit\Version;

use Hafen\Edit\Channels;
use Hafen\Edit\Edit;
use Hafen\Session\Session;
use Hafen\Session\Source\ClipSource;
use Hafen\Session\Source\Version;

/** Has a track play a version; what it played is kept in its place, so that the same leads back. The session grows to hold it. */
final readonly class UseVersion implements Edit
{
    public function __construct(public string $channel, public string $version)
    {
    }

    public function apply(Session $session): Session
    {
        $channel = Versions::track($session, $this->channel);
        $version = Versions::find($channel, $this->version);
        $played = $channel->source->clips();

        return $session->withChannel($channel->withClips($version->clips)->withVersions(array_map(
            static fn (Version $one): Version => $one->id === $version->id ? $one->withClips($played) : $one,
            $channel->versions,
        )))->withLength(max($session->length, (new ClipSource($version->clips))->end()));
    }

    public function label(Session $before): string
    {
        return 'Another version of '.Channels::named($before, [$this->channel]);
    }

    public function touches(Session $before): array
    {
        return ["channels/{$this->channel}/versions", "channels/{$this->channel}/source"];
    }
}
