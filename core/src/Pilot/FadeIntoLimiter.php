<?php

declare(strict_types=1);

namespace Hafen\Pilot;

use Hafen\Edit\Json\EditRequest;
use Hafen\Session\Automation\AutomationKind;
use Hafen\Session\Automation\AutomationLane;
use Hafen\Session\Channel\Channel;
use Hafen\Session\Insert\ProcessorInsert;
use Hafen\Session\Insert\Row;

/** A fade in front of a limiter: as it goes down the limiter lets go, and the sound changes before it gets quieter. */
final readonly class FadeIntoLimiter implements Check
{
    public function advice(SessionFacts $facts): array
    {
        $advice = [];
        foreach ($facts->session->channels as $channel) {
            $after = self::limiter($channel, Row::PostInserts, 0);
            if ($after !== null && $channel->lane('fader')?->isMoving() === true) {
                $advice[] = new Advice('fade-into-limiter', Severity::Advice, $channel->id, $after->id,
                    "The fader of {$channel->name} is automated in front of its limiter: a fade changes how it limits before it gets quieter.",
                    new Fix('Limiter before the fader', EditRequest::moveInsert($after->id, $channel->id)));
            }
            foreach ($channel->automation as $lane) {
                $limiter = self::behind($channel, $lane);
                if ($limiter !== null && $lane->isMoving()) {
                    $advice[] = new Advice('fade-into-limiter', Severity::Advice, $channel->id, $lane->target->part,
                        "A gain on {$channel->name} is automated in front of its limiter: a fade changes how it limits before it gets quieter; fade with the fader.");
                }
            }
        }

        return $advice;
    }

    /** The limiter behind a gain a lane moves. */
    private static function behind(Channel $channel, AutomationLane $lane): ?ProcessorInsert
    {
        if ($lane->target->kind !== AutomationKind::Parameter || $lane->target->parameter !== 'gain') {
            return null;
        }
        foreach ($channel->inserts as $index => $insert) {
            if ($insert instanceof ProcessorInsert && $insert->id === $lane->target->part && $insert->processor === 'gain') {
                return self::limiter($channel, Row::Inserts, $index + 1);
            }
        }

        return null;
    }

    private static function limiter(Channel $channel, Row $row, int $from): ?ProcessorInsert
    {
        $working = SessionFacts::working($channel, array_slice($channel->row($row), $from));
        foreach ($working as $insert) {
            if ($insert->processor === 'limiter') {
                return $insert;
            }
        }

        return null;
    }
}
