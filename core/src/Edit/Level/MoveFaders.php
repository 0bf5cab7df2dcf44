<?php

declare(strict_types=1);

namespace Hafen\Edit\Level;

use Hafen\Audio\Decibel;
use Hafen\Edit\Channels;
use Hafen\Edit\Edit;
use Hafen\Session\Channel\Channel;
use Hafen\Session\Session;

/** Moves faders by the same number of dB, see {@see RelativeMove}. */
final readonly class MoveFaders implements Edit
{
    public const LOWEST = -60.0;

    public const HIGHEST = 12.0;

    /** @param  list<string>  $channels */
    public function __construct(public array $channels, public float $by)
    {
    }

    public function apply(Session $session): Session
    {
        $gains = [];
        foreach ($this->channels as $id) {
            $channel = Channels::find($session, $id);
            array_push($gains, $channel->fader, ...($channel->lane('fader')?->values() ?? []));
        }
        $by = RelativeMove::of($this->by, $gains, self::LOWEST, self::HIGHEST, 'One of the faders');

        return Channels::each($session, $this->channels, static fn (Channel $channel): Channel => self::moved($channel, $by));
    }

    /** A fader with all of its automation: the shape stays. */
    public static function moved(Channel $channel, float $by): Channel
    {
        $lane = $channel->lane('fader');
        $channel = $channel->fader === null ? $channel : $channel->withFader(round($channel->fader + $by, 3));

        return $lane === null ? $channel : $channel->withLane($lane->movedBy($by));
    }

    public function label(Session $before): string
    {
        return 'Faders of '.Channels::named($before, $this->channels).' by '.Decibel::text($this->by, 'dB', true);
    }

    public function touches(Session $before): array
    {
        // A lane moves along.
        return [...Channels::paths($this->channels, 'fader'), ...Channels::paths($this->channels, 'automation/fader')];
    }
}
