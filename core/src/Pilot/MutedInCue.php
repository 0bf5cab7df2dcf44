<?php

declare(strict_types=1);

namespace Hafen\Pilot;

use Hafen\Session\Channel\ChannelKind;

/** A channel that is muted in the mix and goes on in a cue: right for performers, easily forgotten. */
final readonly class MutedInCue implements Check
{
    public function advice(SessionFacts $facts): array
    {
        $advice = [];
        foreach ($facts->session->channels as $channel) {
            foreach ($channel->mute ? $channel->sends : [] as $send) {
                $to = $facts->session->channel($send->to);
                if ($to?->kind === ChannelKind::Cue && $send->on && ! $send->tap->followsFader()) {
                    $advice[] = new Advice('muted-in-cue', Severity::Information, $channel->id, $send->id,
                        "{$channel->name} is muted and still heard in {$to->name}.");
                }
            }
        }

        return $advice;
    }
}
