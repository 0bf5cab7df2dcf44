<?php

declare(strict_types=1);

namespace Hafen\Pilot;

use Hafen\Edit\Json\EditRequest;
use Hafen\Session\Channel\ChannelKind;
use Hafen\Session\Channel\TapPoint;

/** A send to a cue that follows the fader: what is done to the mix is heard in the headphones. */
final readonly class CueSendAfterFader implements Check
{
    public function advice(SessionFacts $facts): array
    {
        $advice = [];
        foreach ($facts->session->channels as $channel) {
            foreach ($channel->sends as $send) {
                $to = $facts->session->channel($send->to);
                if ($to?->kind === ChannelKind::Cue && $send->on && $send->tap->followsFader()) {
                    $advice[] = new Advice('cue-send-after-fader', Severity::Advice, $channel->id, $send->id,
                        "{$channel->name} is sent to {$to->name} after its fader: moves in the main mix are heard there.",
                        new Fix('Set before fader', EditRequest::setSendTap([$send->id], TapPoint::PreFader)));
                }
            }
        }

        return $advice;
    }
}
