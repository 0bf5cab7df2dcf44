<?php

declare(strict_types=1);

namespace Hafen\Pilot;

use Hafen\Survey\ClippedClip;

/** A recording that was clipped when it was made: no fader brings that back. */
final readonly class ClippedFile implements Check
{
    public function advice(SessionFacts $facts): array
    {
        $advice = [];
        foreach ($facts->session->channels as $channel) {
            $clipped = $facts->survey->sources[$channel->id]->clipped ?? [];
            if ($clipped === []) {
                continue;
            }
            $places = array_sum(array_map(static fn (ClippedClip $clip): int => $clip->places, $clipped));
            $first = min(array_map(static fn (ClippedClip $clip): int => $clip->first, $clipped));
            $advice[] = new Advice('clipped-file', Severity::Advice, $channel->id, null, sprintf(
                'The recording of %s is clipped in %d %s, the first at %02d:%06.3f: lowering it does not bring the tops back.',
                $channel->name, $places, $places === 1 ? 'place' : 'places',
                intdiv($first, 60 * $facts->session->sampleRate), fmod($first / $facts->session->sampleRate, 60.0),
            ));
        }

        return $advice;
    }
}
