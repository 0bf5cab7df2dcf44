<?php

declare(strict_types=1);

namespace Hafen\Pilot;

use Hafen\Audio\Decibel;
use Hafen\Edit\Json\EditRequest;
use Hafen\Headroom\InputTaps;

/** What does otherwise when it is fed more, and is fed above full scale; limiters are there for just that. */
final readonly class OverIntoLevelDependent implements Check
{
    public function advice(SessionFacts $facts): array
    {
        $advice = [];
        foreach ($facts->session->channels as $channel) {
            foreach ($channel->insertsOn ? InputTaps::of($channel) : [] as $id => [$insert, $tap]) {
                $reading = $facts->reading($tap);
                $peak = $reading?->peakLevel();
                if ($peak === null || $peak <= 0.0 || ! $insert->on || $insert->mix <= 0.0 || $insert->processor === 'limiter' || $insert->sidechain !== null || ! $facts->spec($insert)->levelDependent) {
                    continue;
                }
                $by = -ceil(10.0 * $peak) / 10.0 - 1.0;
                $advice[] = new Advice('over-into-level-dependent', Severity::Advice, $channel->id, (string) $id,
                    sprintf('%s on %s is fed up to %s above full scale and works harder than it is set.', $facts->spec($insert)->name, $channel->name, Decibel::text($peak)),
                    new Fix("Trim {$channel->name} ".Decibel::text($by), EditRequest::moveTrims([$channel->id], $by)));
            }
        }

        return $advice;
    }
}
