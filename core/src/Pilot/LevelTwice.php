<?php

declare(strict_types=1);

namespace Hafen\Pilot;

use Hafen\Audio\Decibel;
use Hafen\Edit\Json\EditRequest;
use Hafen\Session\Channel\TapPoint;

/** A track that is printed from after another's fader and has the same fader itself: the level counts twice. */
final readonly class LevelTwice implements Check
{
    /** dB within which two faders stand alike. */
    private const ALIKE = 0.05;

    public function advice(SessionFacts $facts): array
    {
        $advice = [];
        foreach ($facts->session->channels as $channel) {
            $tapped = $channel->source->tapped();
            $from = $tapped?->tap === TapPoint::PostFader ? $facts->session->channel($tapped->channel) : null;
            if ($from?->fader === null || $channel->fader === null || abs($from->fader) < self::ALIKE || abs($from->fader - $channel->fader) >= self::ALIKE) {
                continue;
            }
            $advice[] = new Advice('level-twice', Severity::Advice, $channel->id, null,
                sprintf('%s takes %s after its fader and has the same %s again: the level counts twice.', $channel->name, $from->name, Decibel::text($from->fader, 'dB', true)),
                new Fix('Set its fader to 0.0', EditRequest::setFader([$channel->id], 0.0)));
        }

        return $advice;
    }
}
