<?php

declare(strict_types=1);

namespace Hafen\Session;

use Hafen\Processor\ParameterKind;
use Hafen\Processor\ProcessorCatalogue;

/** The sound files a session names: those of its clips, and recordings its effects work with. */
final class SessionFiles
{
    /** @return list<string> each once */
    public static function of(Session $session, ProcessorCatalogue $processors): array
    {
        $files = [];
        foreach ($session->channels as $channel) {
            foreach ($channel->source instanceof ClipSource ? $channel->source->clips : [] as $clip) {
                $files[] = $clip->file;
            }
            foreach ($channel->allInserts() as $insert) {
                if ($insert instanceof ProcessorInsert) {
                    array_push($files, ...self::ofInsert($insert, $processors));
                }
            }
        }

        return array_values(array_unique($files));
    }

    /** @return list<string> */
    private static function ofInsert(ProcessorInsert $insert, ProcessorCatalogue $processors): array
    {
        $files = [];
        foreach ($processors->spec($insert->processor)->parameters as $parameter) {
            if ($parameter->kind !== ParameterKind::AudioFile) {
                continue;
            }
            foreach ([$insert->parameters, $insert->other->parameters ?? []] as $parameters) {
                $file = $parameters[$parameter->id] ?? '';
                if (is_string($file) && $file !== '') {
                    $files[] = $file;
                }
            }
        }

        return $files;
    }
}
