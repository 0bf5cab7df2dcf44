<?php

declare(strict_types=1);

namespace Hafen\Edit\Send;

use Hafen\Audio\Decibel;
use Hafen\Edit\Edit;
use Hafen\Edit\Level\RelativeMove;
use Hafen\Session\Channel\Channel;
use Hafen\Session\Channel\Send;
use Hafen\Session\Channel\SendLocation;
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
        foreach (SendEdits::locations($session, $this->sends) as $location) {
            array_push($gains, $location->send->gain, ...($location->channel->lane("send:{$location->send->id}")?->values() ?? []));
        }
        $by = RelativeMove::of($this->by, $gains, self::LOWEST, self::HIGHEST, 'One of the sends');

        $session = SendEdits::each($session, $this->sends, static fn (Send $send): Send => $send->gain === null
            ? $send
            : $send->withGain(round($send->gain + $by, 3)));
        $targets = array_map(static fn (string $id): string => "send:{$id}", $this->sends);

        return $session->withChannels(array_map(static fn (Channel $channel): Channel => self::withLanesMoved($channel, $targets, $by), $session->channels));
    }

    /** @param  list<string>  $targets */
    private static function withLanesMoved(Channel $channel, array $targets, float $by): Channel
    {
        foreach ($channel->automation as $lane) {
            $channel = in_array($lane->target->text(), $targets, true) ? $channel->withLane($lane->movedBy($by)) : $channel;
        }

        return $channel;
    }

    public function label(Session $before): string
    {
        return SendEdits::named($before, $this->sends).' by '.Decibel::text($this->by, 'dB', true);
    }

    public function touches(Session $before): array
    {
        $lanes = array_map(static fn (SendLocation $location): string => "channels/{$location->channel->id}/automation/send:{$location->send->id}", SendEdits::locations($before, $this->sends));

        return [...SendEdits::paths($this->sends, 'gain'), ...$lanes];
    }
}
