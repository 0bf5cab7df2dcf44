<?php

declare(strict_types=1);

namespace Hafen\Edit\Level;

use Hafen\Audio\Decibel;
use Hafen\Edit\Channels;
use Hafen\Edit\Edit;
use Hafen\Session\Channel\Channel;
use Hafen\Session\Channel\ChannelTrim;
use Hafen\Session\Session;

/** Moves trims by the same number of dB, see {@see RelativeMove}. */
final readonly class MoveTrims implements Edit
{
    private const LOWEST = -60.0;

    private const HIGHEST = 24.0;

    /** @param  list<string>  $channels */
    public function __construct(public array $channels, public float $by)
    {
    }

    public function apply(Session $session): Session
    {
        $gains = array_map(static fn (string $id): ?float => Channels::find($session, $id)->trim->gain, $this->channels);
        $by = RelativeMove::of($this->by, $gains, self::LOWEST, self::HIGHEST, 'One of the trims');

        return Channels::each($session, $this->channels, static fn (Channel $channel): Channel => $channel->trim->gain === null
            ? $channel
            : $channel->withTrim(new ChannelTrim(round($channel->trim->gain + $by, 3), $channel->trim->invert)));
    }

    public function label(Session $before): string
    {
        return 'Trims of '.Channels::named($before, $this->channels).' by '.Decibel::text($this->by, 'dB', true);
    }

    public function touches(Session $before): array
    {
        return Channels::paths($this->channels, 'trim/gain');
    }
}
