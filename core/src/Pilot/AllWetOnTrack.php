<?php

declare(strict_types=1);

namespace Hafen\Pilot;

use Hafen\Edit\Json\EditRequest;
use Hafen\Session\Channel\ChannelKind;

/** A track whose reverb or echo leaves nothing of the dry sound. */
final readonly class AllWetOnTrack implements Check
{
    public function advice(SessionFacts $facts): array
    {
        $advice = [];
        foreach ($facts->ofKind(ChannelKind::Track, ChannelKind::Note, ChannelKind::Group) as $channel) {
            foreach ([...SessionFacts::working($channel, $channel->inserts), ...SessionFacts::working($channel, $channel->postInserts)] as $insert) {
                $spec = $facts->spec($insert);
                if ($spec->wetOnly && $insert->mix >= 1.0) {
                    $advice[] = new Advice('all-wet-on-track', Severity::Advice, $channel->id, $insert->id,
                        "{$spec->name} on {$channel->name} is all wet: none of the dry sound comes through.",
                        new Fix('Set 25 %', EditRequest::setMix($insert->id, $spec->mixOnTrack())));
                }
            }
        }

        return $advice;
    }
}
