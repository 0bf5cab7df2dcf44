<?php

declare(strict_types=1);

namespace Hafen\Pilot;

use Hafen\Metering\TapReading;
use Hafen\Session\ChannelKind;

/** A channel nothing sounds on over the whole length, whose inserts work all the same. */
final readonly class SilentAtWork implements Check
{
    public function notes(Chart $chart): array
    {
        $notes = [];
        foreach ($chart->ofKind(ChannelKind::Track, ChannelKind::Group, ChannelKind::Return) as $channel) {
            $reading = $chart->reading("{$channel->id}:source");
            $working = count(Chart::working($channel, [...$channel->inserts, ...$channel->postInserts]));
            if ($reading === null || $reading->meanSquare > TapReading::SILENCE || $working === 0 || ($chart->routes->into($channel->id) === [] && $channel->kind !== ChannelKind::Track)) {
                continue;
            }
            $notes[] = new Note('silent-at-work', Severity::Information, $channel->id, null,
                sprintf('%s is silent from start to end; its %s %s all the same.', $channel->name, $working === 1 ? 'insert' : "{$working} inserts", $working === 1 ? 'works' : 'work'),
                new Mend('Bypass its row', ['type' => 'set-row', 'channels' => [$channel->id], 'on' => false]));
        }

        return $notes;
    }
}
