<?php

declare(strict_types=1);

namespace Hafen\Session\Channel;

use Hafen\Session\Copies;

/**
 * Who hears a cue, and how they set it for themselves: how loud their own tracks and the rest of the band come in, on top of what is sent there.
 * Gains in dB; null is silence.
 */
final readonly class Performer
{
    use Copies;

    /** @param  list<string>  $tracks  ids of their own channels */
    public function __construct(public array $tracks = [], public ?float $me = 0.0, public ?float $band = 0.0)
    {
    }

    /** What is put on top of the sends of a channel. */
    public function gainOf(string $channel): ?float
    {
        return in_array($channel, $this->tracks, true) ? $this->me : $this->band;
    }

    /** @param  list<string>  $tracks */
    public function withTracks(array $tracks): self
    {
        return $this->copy(tracks: $tracks);
    }

    public function withGain(PerformerPart $part, ?float $gain): self
    {
        return $part === PerformerPart::Me ? $this->copy(me: $gain) : $this->copy(band: $gain);
    }
}
