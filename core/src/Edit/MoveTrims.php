<?php

declare(strict_types=1);

namespace Hafen\Edit;

use Hafen\Audio\Decibel;
use Hafen\Session\Channel;
use Hafen\Session\ChannelTrim;
use Hafen\Session\Session;

/** Moves trims by the same number of dB, all of them or none further than the range of each allows, so that their relation stays. */
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
        if ($this->channels === []) {
            throw EditRefused::nothingSelected();
        }
        $by = $this->by;
        foreach ($this->channels as $id) {
            $gain = Channels::find($session, $id)->trim->gain;
            if ($gain !== null) {
                $by = max(self::LOWEST - $gain, min(self::HIGHEST - $gain, $by));
            }
        }
        if (abs($by) < 0.001 && abs($this->by) >= 0.001) {
            throw EditRefused::noSpaceToMove('One of the trims', $this->by > 0 ? '+'.self::HIGHEST.' dB' : self::LOWEST.' dB');
        }

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
