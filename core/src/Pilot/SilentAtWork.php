<?php

declare(strict_types=1);

namespace Hafen\Pilot;

use Hafen\Edit\Json\EditRequest;
use Hafen\Metering\TapReading;
use Hafen\Session\Channel\ChannelKind;

/** A channel nothing sounds on over the whole length, whose inserts work all the same. */
final readonly class SilentAtWork implements Check
{
    public function advice(SessionFacts $facts): array
    {
        $advice = [];
        foreach ($facts->ofKind(ChannelKind::Track, ChannelKind::Group, ChannelKind::Return) as $channel) {
            $reading = $facts->reading("{$channel->id}:source");
            $working = count(SessionFacts::working($channel, [...$channel->inserts, ...$channel->postInserts]));
            if ($reading === null || $reading->meanSquare > TapReading::SILENCE || $working === 0 || ($facts->routes->into($channel->id) === [] && $channel->kind !== ChannelKind::Track)) {
                continue;
            }
            $advice[] = new Advice('silent-at-work', Severity::Information, $channel->id, null,
                sprintf('%s is silent from start to end; its %s %s all the same.', $channel->name, $working === 1 ? 'insert' : "{$working} inserts", $working === 1 ? 'works' : 'work'),
                new Fix('Bypass its row', EditRequest::setRow([$channel->id], false)));
        }

        return $advice;
    }
}
