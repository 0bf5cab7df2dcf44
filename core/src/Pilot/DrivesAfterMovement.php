<?php

declare(strict_types=1);

namespace Hafen\Pilot;

use Hafen\Edit\Json\EditRequest;
use Hafen\Session\Insert\ProcessorInsert;

/** A moving sound into one drive after the other: what wavers is multiplied, and turns muddy. */
final readonly class DrivesAfterMovement implements Check
{
    private const MOVEMENT = 'Movement';

    private const DRIVES = ['drive', 'distortion', 'tube-stage', 'tape-stage', 'amplifier', 'waveshaper'];

    public function advice(SessionFacts $facts): array
    {
        $advice = [];
        foreach ($facts->session->channels as $channel) {
            $working = SessionFacts::working($channel, $channel->inserts);
            foreach ($working as $index => $insert) {
                if ($facts->spec($insert)->category !== self::MOVEMENT) {
                    continue;
                }
                $drives = array_values(array_filter(array_slice($working, $index + 1), static fn (ProcessorInsert $after): bool => in_array($after->processor, self::DRIVES, true)));
                if (count($drives) < 2) {
                    continue;
                }
                $location = $facts->session->locate($drives[count($drives) - 1]->id);
                $advice[] = new Advice('drives-after-movement', Severity::Advice, $channel->id, $insert->id,
                    sprintf('%s on %s runs into %d drives: a moving sound turns muddy there.', $facts->spec($insert)->name, $channel->name, count($drives)),
                    $location === null ? null : new Fix('Put it after them', EditRequest::moveInsert($insert->id, $channel->id, $location->index + 1)));
            }
        }

        return $advice;
    }
}
