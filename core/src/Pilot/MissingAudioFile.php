<?php

declare(strict_types=1);

namespace Hafen\Pilot;

use Hafen\Edit\Json\EditRequest;
use Hafen\Processor\AudioFiles;
use Hafen\Processor\ParameterKind;
use Hafen\Processor\ParameterSpec;
use Hafen\Processor\ParameterValues;
use Hafen\Processor\ProcessorSpec;
use Hafen\Session\Insert\ProcessorInsert;

/** An effect that is to work with a recording and has none, or one that is gone: it lets the sound through as it is. */
final readonly class MissingAudioFile implements Check
{
    public function advice(SessionFacts $facts): array
    {
        $advice = [];
        $audioFiles = $facts->audioFiles;
        if ($audioFiles === null) {
            return [];
        }
        foreach ($facts->session->channels as $channel) {
            foreach ($channel->allInserts() as $insert) {
                if ($insert instanceof ProcessorInsert && $insert->on) {
                    $advice[] = $this->adviceOn($facts, $audioFiles, $channel->id, $insert);
                }
            }
        }

        return array_values(array_filter($advice));
    }

    private function adviceOn(SessionFacts $facts, AudioFiles $audioFiles, string $channel, ProcessorInsert $insert): ?Advice
    {
        $spec = $facts->spec($insert);
        $user = $spec->userOfAudioFile();
        $audioFile = array_values(array_filter($spec->parameters, static fn (ParameterSpec $parameter): bool => $parameter->kind === ParameterKind::AudioFile))[0] ?? null;
        $values = ParameterValues::of($spec, $insert->parameters);
        if ($user === null) {
            return self::adviceOnRecordings($facts, $audioFiles, $channel, $insert, $spec, $values);
        }
        if ($audioFile === null || $values->choice($user->id) !== ParameterSpec::OWN_FILE) {
            return null;
        }
        $file = $values->text($audioFile->id);
        if ($file !== '' && $audioFiles->has($file)) {
            return null;
        }
        $text = $file === ''
            ? '%s on %s is to use a recording of your own, and none is chosen: the sound goes through as it is.'
            : '%s on %s cannot find its recording: the sound goes through as it is. Choose it again.';

        return new Advice('recording-missing', Severity::Advice, $channel, $insert->id, sprintf($text, $spec->name, $facts->name($channel)), new Fix(
            "Use {$user->choices[(string) $user->default]}",
            EditRequest::setParameter($insert->id, $user->id, $user->default),
        ));
    }

    /** Of what plays recordings, such as a sampler. */
    private static function adviceOnRecordings(SessionFacts $facts, AudioFiles $audioFiles, string $channel, ProcessorInsert $insert, ProcessorSpec $spec, ParameterValues $values): ?Advice
    {
        foreach ($spec->parameters as $parameter) {
            $file = $parameter->kind === ParameterKind::AudioFile ? $values->text($parameter->id) : '';
            if ($file !== '' && ! $audioFiles->has($file)) {
                return new Advice('recording-missing', Severity::Severe, $channel, $insert->id, sprintf('%s on %s cannot find a recording: notes it is for are silent. Choose it again.', $spec->name, $facts->name($channel)), null);
            }
        }

        return null;
    }
}
