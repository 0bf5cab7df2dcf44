<?php

declare(strict_types=1);

namespace Hafen\Edit;

use Hafen\Audio\Decibel;
use Hafen\Session\Channel;
use Hafen\Session\Session;

/** Moves faders by the same number of dB, see {@see RelativeMove}. */
final readonly class MoveFaders implements Edit
{
    private const LOWEST = -60.0;

    private const HIGHEST = 12.0;

    /** @param  list<string>  $channels */
    public function __construct(public array $channels, public float $by)
    {
    }

    public function apply(Session $session): Session
    {
        $gains = array_map(static fn (string $id): ?float => Channels::find($session, $id)->fader, $this->channels);
        $by = RelativeMove::of($this->by, $gains, self::LOWEST, self::HIGHEST, 'One of the faders');

        return Channels::each($session, $this->channels, static fn (Channel $channel): Channel => $channel->fader === null
            ? $channel
            : $channel->withFader(round($channel->fader + $by, 3)));
    }

    public function label(Session $before): string
    {
        return 'Faders of '.Channels::named($before, $this->channels).' by '.Decibel::text($this->by, 'dB', true);
    }

    public function touches(Session $before): array
    {
        return Channels::paths($this->channels, 'fader');
    }
}
