<?php

declare(strict_types=1);

namespace Hafen\Edit\Level;

use Hafen\Audio\Decibel;
use Hafen\Edit\Channels;
use Hafen\Edit\Edit;
use Hafen\Edit\Refusals\OnlyTracksCarryClips;
use Hafen\Session\Channel\Channel;
use Hafen\Session\Session;
use Hafen\Session\Source\Clip;
use Hafen\Session\Source\ClipSource;

/** Moves the gains of all clips of some tracks by the same number of dB, see {@see RelativeMove}. */
final readonly class MoveClipGains implements Edit
{
    private const LOWEST = -96.0;

    private const HIGHEST = 24.0;

    /** @param  list<string>  $channels */
    public function __construct(public array $channels, public float $by)
    {
    }

    public function apply(Session $session): Session
    {
        $gains = [];
        foreach ($this->channels as $id) {
            $channel = Channels::find($session, $id);
            if (! $channel->source instanceof ClipSource) {
                throw OnlyTracksCarryClips::not($channel->name);
            }
            array_push($gains, ...array_map(static fn (Clip $clip): ?float => $clip->gain, $channel->source->clips));
        }
        $by = RelativeMove::of($this->by, $gains, self::LOWEST, self::HIGHEST, 'One of the clips');

        return Channels::each($session, $this->channels, static fn (Channel $channel): Channel => $channel->withClips(
            array_map(static fn (Clip $clip): Clip => $clip->gain === null ? $clip : $clip->withGain(round($clip->gain + $by, 3)), $channel->source->clips()),
        ));
    }

    public function label(Session $before): string
    {
        return 'Clip gains of '.Channels::named($before, $this->channels).' by '.Decibel::text($this->by, 'dB', true);
    }

    public function touches(Session $before): array
    {
        return Channels::paths($this->channels, 'source');
    }
}
