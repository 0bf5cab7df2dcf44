<?php

declare(strict_types=1);

namespace Hafen\Pilot;

use Hafen\Survey\ClippedClip;

/** A recording that was clipped when it was made: no fader brings that back. */
final readonly class ClippedFile implements Check
{
    public function notes(Chart $chart): array
    {
        $notes = [];
        foreach ($chart->session->channels as $channel) {
            $clipped = $chart->survey->sources[$channel->id]->clipped ?? [];
            if ($clipped === []) {
                continue;
            }
            $places = array_sum(array_map(static fn (ClippedClip $clip): int => $clip->places, $clipped));
            $first = min(array_map(static fn (ClippedClip $clip): int => $clip->first, $clipped));
            $notes[] = new Note('clipped-file', Severity::Advice, $channel->id, null, sprintf(
                'The recording of %s is clipped in %d %s, the first at %02d:%06.3f: lowering it does not bring the tops back.',
                $channel->name, $places, $places === 1 ? 'place' : 'places',
                intdiv($first, 60 * $chart->session->sampleRate), fmod($first / $chart->session->sampleRate, 60.0),
            ));
        }

        return $notes;
    }
}
