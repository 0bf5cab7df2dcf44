<?php

declare(strict_types=1);

namespace Hafen\Pilot;

use Hafen\Session\ChannelKind;

/** A return that falls silent when a channel that does not send to it is soloed, or a bus after it. */
final readonly class ReturnNotSoloSafe implements Check
{
    public function notes(Chart $chart): array
    {
        $notes = [];
        foreach ($chart->ofKind(ChannelKind::Return) as $return) {
            if (! $return->soloSafe && $chart->routes->into($return->id) !== []) {
                $notes[] = new Note('return-not-solo-safe', Severity::Advice, $return->id, null,
                    "{$return->name} is not solo-safe: it can fall silent when something else is soloed.",
                    new Mend('Make it solo-safe', ['type' => 'set-solo-safe', 'channels' => [$return->id], 'soloSafe' => true]));
            }
        }

        return $notes;
    }
}
