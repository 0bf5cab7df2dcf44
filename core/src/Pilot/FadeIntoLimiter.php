<?php

declare(strict_types=1);

namespace Hafen\Pilot;

use Hafen\Session\Channel;
use Hafen\Session\Lane;
use Hafen\Session\LaneKind;
use Hafen\Session\ProcessorInsert;
use Hafen\Session\Row;

/** A fade in front of a limiter: as it goes down the limiter lets go, and the sound changes before it gets quieter. */
final readonly class FadeIntoLimiter implements Check
{
    public function notes(Chart $chart): array
    {
        $notes = [];
        foreach ($chart->session->channels as $channel) {
            $after = self::limiter($channel, Row::PostInserts, 0);
            if ($after !== null && $channel->lane('fader')?->isMoving() === true) {
                $notes[] = new Note('fade-into-limiter', Severity::Advice, $channel->id, $after->id,
                    "The fader of {$channel->name} is automated in front of its limiter: a fade changes how it limits before it gets quieter.",
                    new Mend('Limiter before the fader', ['type' => 'move-insert', 'insert' => $after->id, 'channel' => $channel->id, 'row' => 'inserts']));
            }
            foreach ($channel->automation as $lane) {
                $limiter = self::behind($channel, $lane);
                if ($limiter !== null && $lane->isMoving()) {
                    $notes[] = new Note('fade-into-limiter', Severity::Advice, $channel->id, $lane->target->part,
                        "A gain on {$channel->name} is automated in front of its limiter: a fade changes how it limits before it gets quieter; fade with the fader.");
                }
            }
        }

        return $notes;
    }

    /** The limiter behind a gain a lane moves. */
    private static function behind(Channel $channel, Lane $lane): ?ProcessorInsert
    {
        if ($lane->target->kind !== LaneKind::Parameter || $lane->target->parameter !== 'gain') {
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
        $working = Chart::working($channel, array_slice($channel->row($row), $from));
        foreach ($working as $insert) {
            if ($insert->processor === 'limiter') {
                return $insert;
            }
        }

        return null;
    }
}
