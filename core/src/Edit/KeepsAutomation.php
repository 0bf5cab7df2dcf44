<?php

declare(strict_types=1);

namespace Hafen\Edit;

use Hafen\Session\Channel;
use Hafen\Session\Insert;
use Hafen\Session\Lane;
use Hafen\Session\LaneCodec;
use Hafen\Session\Session;

/** Any edit, and after it: what moves an insert goes with it to another channel, and what moves something that is gone goes too. */
final readonly class KeepsAutomation implements Edit
{
    public function __construct(public Edit $edit)
    {
    }

    public function apply(Session $session): Session
    {
        $after = $this->edit->apply($session);
        if (array_filter($after->channels, static fn (Channel $channel): bool => $channel->automation !== []) === [] && array_filter($session->channels, static fn (Channel $channel): bool => $channel->automation !== []) === []) {
            return $after;
        }
        $homeless = [];
        foreach ($after->channels as $channel) {
            $lost = array_filter($channel->automation, static fn (Lane $lane): bool => ! LaneCodec::exists($lane->target, $channel));
            array_push($homeless, ...array_values($lost));
            if ($lost !== []) {
                $after = $after->withChannel($channel->withAutomation(array_values(array_filter($channel->automation, static fn (Lane $lane): bool => LaneCodec::exists($lane->target, $channel)))));
            }
        }
        foreach ($homeless as $lane) {
            $home = $lane->target->isOfInsert() ? self::homeOf((string) $lane->target->part, $after) : null;
            $after = $home === null ? $after : $after->withChannel($home->withLane($lane));
        }

        return $after;
    }

    public function label(Session $before): string
    {
        return $this->edit->label($before);
    }

    public function touches(Session $before): array
    {
        return $this->edit->touches($before);
    }

    private static function homeOf(string $insert, Session $session): ?Channel
    {
        foreach ($session->channels as $channel) {
            if (in_array($insert, array_map(static fn (Insert $known): string => $known->id(), $channel->allInserts()), true)) {
                return $channel;
            }
        }

        return null;
    }
}
