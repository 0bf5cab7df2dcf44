<?php

declare(strict_types=1);

namespace Hafen\Edit;

use Hafen\Audio\Decibel;
use Hafen\Session\Send;
use Hafen\Session\Session;

/** Moves sends by the same number of dB, see {@see RelativeMove}. */
final readonly class MoveSends implements Edit
{
    public const LOWEST = -60.0;

    public const HIGHEST = 12.0;

    /** @param  list<string>  $sends */
    public function __construct(public array $sends, public float $by)
    {
    }

    public function apply(Session $session): Session
    {
        $gains = [];
        foreach ($this->sends as $id) {
            $place = SendEdits::find($session, $id);
            array_push($gains, $place->send->gain, ...($place->channel->lane("send:{$id}")?->values() ?? []));
        }
        $by = RelativeMove::of($this->by, $gains, self::LOWEST, self::HIGHEST, 'One of the sends');

        $session = SendEdits::each($session, $this->sends, static fn (Send $send): Send => $send->gain === null
            ? $send
            : $send->withGain(round($send->gain + $by, 3)));
        foreach ($this->sends as $id) {
            $channel = SendEdits::find($session, $id)->channel;
            $lane = $channel->lane("send:{$id}");
            $session = $lane === null ? $session : $session->withChannel($channel->withLane($lane->movedBy($by)));
        }

        return $session;
    }

    public function label(Session $before): string
    {
        return SendEdits::named($before, $this->sends).' by '.Decibel::text($this->by, 'dB', true);
    }

    public function touches(Session $before): array
    {
        $lanes = array_map(static fn (string $id): string => 'channels/'.SendEdits::find($before, $id)->channel->id."/automation/send:{$id}", $this->sends);

        return [...SendEdits::paths($this->sends, 'gain'), ...$lanes];
    }
}
