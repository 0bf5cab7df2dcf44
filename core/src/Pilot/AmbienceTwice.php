<?php

declare(strict_types=1);

namespace Hafen\Pilot;

use Hafen\Session\Channel\ChannelKind;

/** One kind of effect on a channel and behind one of its sends: a small room and a shared one, or one too many. */
final readonly class AmbienceTwice implements Check
{
    public function advice(SessionFacts $facts): array
    {
        $advice = [];
        foreach ($facts->ofKind(ChannelKind::Track, ChannelKind::Note, ChannelKind::Group) as $channel) {
            foreach (SessionFacts::working($channel, $channel->inserts) as $insert) {
                $spec = $facts->spec($insert);
                foreach ($spec->wetOnly ? $channel->sends : [] as $send) {
                    $to = $facts->session->channel($send->to);
                    if (! $send->on || $to?->kind !== ChannelKind::Return) {
                        continue;
                    }
                    foreach (SessionFacts::working($to, $to->inserts) as $behind) {
                        if ($behind->processor === $insert->processor) {
                            $advice[] = new Advice('ambience-twice', Severity::Information, $channel->id, $insert->id,
                                "{$channel->name} has {$spec->name} as an insert and gets more of it from {$to->name}.");
                        }
                    }
                }
            }
        }

        return $advice;
    }
}
