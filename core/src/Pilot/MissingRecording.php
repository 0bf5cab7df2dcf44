<?php

declare(strict_types=1);

namespace Hafen\Pilot;

use Hafen\Processor\ParameterKind;
use Hafen\Processor\ParameterSpec;
use Hafen\Processor\ParameterValues;
use Hafen\Processor\Recordings;
use Hafen\Session\ProcessorInsert;

/** An effect that is to work with a recording and has none, or one that is gone: it lets the sound through as it is. */
final readonly class MissingRecording implements Check
{
    public function notes(Chart $chart): array
    {
        $notes = [];
        $recordings = $chart->recordings;
        if ($recordings === null) {
            return [];
        }
        foreach ($chart->session->channels as $channel) {
            foreach ($channel->allInserts() as $insert) {
                if ($insert instanceof ProcessorInsert && $insert->on) {
                    $notes[] = $this->note($chart, $recordings, $channel->id, $insert);
                }
            }
        }

        return array_values(array_filter($notes));
    }

    private function note(Chart $chart, Recordings $recordings, string $channel, ProcessorInsert $insert): ?Note
    {
        $spec = $chart->spec($insert);
        $user = $spec->userOfRecording();
        $recording = array_values(array_filter($spec->parameters, static fn (ParameterSpec $parameter): bool => $parameter->kind === ParameterKind::Recording))[0] ?? null;
        $values = ParameterValues::of($spec, $insert->parameters);
        if ($recording === null || $user === null || $values->choice($user->id) !== ParameterSpec::OWN_RECORDING) {
            return null;
        }
        $file = $values->text($recording->id);
        if ($file !== '' && $recordings->has($file)) {
            return null;
        }
        $text = $file === ''
            ? '%s on %s is to use a recording of your own, and none is chosen: the sound goes through as it is.'
            : '%s on %s cannot find its recording: the sound goes through as it is. Choose it again.';

        return new Note('recording-missing', Severity::Advice, $channel, $insert->id, sprintf($text, $spec->name, $chart->name($channel)), new Mend(
            "Use {$user->choices[(string) $user->default]}",
            ['type' => 'set-parameter', 'insert' => $insert->id, 'parameter' => $user->id, 'value' => $user->default],
        ));
    }
}
