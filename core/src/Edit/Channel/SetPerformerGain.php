<?php

declare(strict_types=1);

namespace Hafen\Edit\Channel;

use Hafen\Audio\Decibel;
use Hafen\Edit\Channels;
use Hafen\Edit\Edit;
use Hafen\Session\Channel\Performer;
use Hafen\Session\Channel\PerformerPart;
use Hafen\Session\Session;

/** Sets how loud who hears a cue has their own tracks, or the rest of the band, on top of the sends; in dB, null is silence. */
final readonly class SetPerformerGain implements Edit
{
    public function __construct(public string $cue, public PerformerPart $part, public ?float $gain)
    {
    }

    public function apply(Session $session): Session
    {
        $cue = Channels::cue($session, $this->cue);

        return $session->withChannel($cue->withPerformer(($cue->performer ?? new Performer)->withGain($this->part, $this->gain)));
    }

    public function label(Session $before): string
    {
        return ucfirst($this->part->value).' in '.Channels::named($before, [$this->cue]).' '.Decibel::text($this->gain, 'dB', true);
    }

    public function touches(Session $before): array
    {
        return ["channels/{$this->cue}/performer/{$this->part->value}"];
    }
}
