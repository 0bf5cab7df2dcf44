<?php

declare(strict_types=1);

namespace Hafen\Edit\Channel;

use Hafen\Edit\Channels;
use Hafen\Edit\Edit;
use Hafen\Session\Channel\Performer;
use Hafen\Session\Session;

/** Says which tracks are those of who hears a cue; how they set it stays. */
final readonly class SetPerformer implements Edit
{
    /** @param  ?list<string>  $tracks  ids; null takes the performer away with how they set it */
    public function __construct(public string $cue, public ?array $tracks)
    {
    }

    public function apply(Session $session): Session
    {
        $cue = Channels::cue($session, $this->cue);
        foreach ($this->tracks ?? [] as $track) {
            Channels::find($session, $track);
        }

        return $session->withChannel($cue->withPerformer($this->tracks === null ? null : ($cue->performer ?? new Performer)->withTracks($this->tracks)));
    }

    public function label(Session $before): string
    {
        return 'Who hears '.Channels::named($before, [$this->cue]);
    }

    public function touches(Session $before): array
    {
        return ["channels/{$this->cue}/performer"];
    }
}
