<?php

declare(strict_types=1);

namespace Hafen\Engine;

use Hafen\Processor\Costs;
use Hafen\Session\Channel\Channel;
use Hafen\Session\Insert\Inserts;
use Hafen\Session\Insert\ProcessorInsert;

/** What the inserts of a channel take, estimated from what their processors were measured to cost ({@see Costs}). */
final class ProcessingCost
{
    /** In per cent of a core; what is frozen takes nothing. */
    public static function of(Channel $channel): float
    {
        $cost = 0.0;
        foreach (Inserts::all([...($channel->frozen === null ? $channel->inserts : []), ...$channel->postInserts]) as $insert) {
            $cost += $insert instanceof ProcessorInsert && $insert->on ? (Costs::of($insert->processor) ?? 1.0) : 0.1;
        }

        return $cost;
    }
}
