<?php

declare(strict_types=1);

namespace Hafen\Pilot;

use Hafen\Session\ChannelKind;

/** A track whose reverb or echo leaves nothing of the dry sound. */
final readonly class AllWetOnTrack implements Check
{
    public function notes(Chart $chart): array
    {
        $notes = [];
        foreach ($chart->ofKind(ChannelKind::Track, ChannelKind::Group) as $channel) {
            foreach ([...Chart::working($channel, $channel->inserts), ...Chart::working($channel, $channel->postInserts)] as $insert) {
                $spec = $chart->spec($insert);
                if ($spec->wetOnly && $insert->mix >= 1.0) {
                    $notes[] = new Note('all-wet-on-track', Severity::Advice, $channel->id, $insert->id,
                        "{$spec->name} on {$channel->name} is all wet: none of the dry sound comes through.",
                        new Mend('Set 25 %', ['type' => 'set-mix', 'insert' => $insert->id, 'mix' => $spec->mixOnTrack()]));
                }
            }
        }

        return $notes;
    }
}
