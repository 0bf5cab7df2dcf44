<?php

declare(strict_types=1);

namespace Hafen\Pilot;

use Hafen\Edit\Json\EditRequest;
use Hafen\Session\Channel\ChannelKind;

/** A return that falls silent when a channel that does not send to it is soloed, or a bus after it. */
final readonly class ReturnNotSoloSafe implements Check
{
    public function advice(SessionFacts $facts): array
    {
        $advice = [];
        foreach ($facts->ofKind(ChannelKind::Return) as $return) {
            if (! $return->soloSafe && $facts->routes->into($return->id) !== []) {
                $advice[] = new Advice('return-not-solo-safe', Severity::Advice, $return->id, null,
                    "{$return->name} is not solo-safe: it can fall silent when something else is soloed.",
                    new Fix('Make it solo-safe', EditRequest::setSoloSafe([$return->id], true)));
            }
        }

        return $advice;
    }
}
