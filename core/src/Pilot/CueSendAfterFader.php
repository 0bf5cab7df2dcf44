<?php

declare(strict_types=1);

namespace Hafen\Pilot;

use Hafen\Session\ChannelKind;

/** A send to a cue that follows the fader: what is done to the mix is heard in the headphones. */
final readonly class CueSendAfterFader implements Check
{
    public function notes(Chart $chart): array
    {
        $notes = [];
        foreach ($chart->session->channels as $channel) {
            foreach ($channel->sends as $send) {
                $to = $chart->session->channel($send->to);
                if ($to?->kind === ChannelKind::Cue && $send->on && $send->tap->followsFader()) {
                    $notes[] = new Note('cue-send-after-fader', Severity::Advice, $channel->id, $send->id,
                        "{$channel->name} is sent to {$to->name} after its fader: moves in the main mix are heard there.",
                        new Mend('Set before fader', ['type' => 'set-send-tap', 'sends' => [$send->id], 'tap' => 'pre-fader']));
                }
            }
        }

        return $notes;
    }
}
