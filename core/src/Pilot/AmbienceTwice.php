<?php

declare(strict_types=1);

namespace Hafen\Pilot;

use Hafen\Session\ChannelKind;

/** One kind of effect on a channel and behind one of its sends: a small room and a shared one, or one too many. */
final readonly class AmbienceTwice implements Check
{
    public function notes(Chart $chart): array
    {
        $notes = [];
        foreach ($chart->ofKind(ChannelKind::Track, ChannelKind::Group) as $channel) {
            foreach (Chart::working($channel, $channel->inserts) as $insert) {
                $spec = $chart->spec($insert);
                foreach ($spec->wetOnly ? $channel->sends : [] as $send) {
                    $to = $chart->session->channel($send->to);
                    if (! $send->on || $to?->kind !== ChannelKind::Return) {
                        continue;
                    }
                    foreach (Chart::working($to, $to->inserts) as $behind) {
                        if ($behind->processor === $insert->processor) {
                            $notes[] = new Note('ambience-twice', Severity::Information, $channel->id, $insert->id,
                                "{$channel->name} has {$spec->name} as an insert and gets more of it from {$to->name}.");
                        }
                    }
                }
            }
        }

        return $notes;
    }
}
