<?php

declare(strict_types=1);

namespace Hafen\Pilot;

use Hafen\Edit\Json\EditRequest;
use Hafen\Session\Channel\ChannelKind;
use Hafen\Session\Channel\TapPoint;

/** A send to an effect that does not follow the fader: the effect stays when its channel is turned down. */
final readonly class EffectSendBeforeFader implements Check
{
    public function advice(SessionFacts $facts): array
    {
        $advice = [];
        foreach ($facts->session->channels as $channel) {
            foreach ($channel->sends as $send) {
                $to = $facts->session->channel($send->to);
                if ($to?->kind === ChannelKind::Return && $send->on && ! $send->tap->followsFader() && $facts->isEffect($to)) {
                    $advice[] = new Advice('effect-send-before-fader', Severity::Advice, $channel->id, $send->id,
                        "{$channel->name} is sent to {$to->name} before its fader: the effect stays when it is turned down or muted.",
                        new Fix('Set after fader', EditRequest::setSendTap([$send->id], TapPoint::PostFader)));
                }
            }
        }

        return $advice;
    }
}
