<?php

declare(strict_types=1);

namespace Hafen\Pilot;

use Hafen\Edit\Json\EditRequest;
use Hafen\Session\Channel\ChannelKind;

/** A return whose reverb or echo lets dry sound through: every send to it makes the dry sound louder too. */
final readonly class ReturnNotWet implements Check
{
    public function advice(SessionFacts $facts): array
    {
        $advice = [];
        foreach ($facts->ofKind(ChannelKind::Return) as $return) {
            foreach (SessionFacts::working($return, $return->inserts) as $insert) {
                if ($facts->spec($insert)->wetOnly && $insert->mix < 1.0) {
                    $percent = (int) round($insert->mix * 100);
                    $advice[] = new Advice('return-not-wet', Severity::Advice, $return->id, $insert->id,
                        "{$return->name} is at {$percent} % wet on a return: more send also means more dry sound.",
                        new Fix('Set 100 %', EditRequest::setMix($insert->id, 1.0)));
                }
            }
        }

        return $advice;
    }
}
