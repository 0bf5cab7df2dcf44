<?php

declare(strict_types=1);

namespace Hafen\Session\Source;

use Hafen\Processor\ParameterKind;
use Hafen\Processor\ProcessorCatalogue;
use Hafen\Session\Channel\Channel;
use Hafen\Session\Insert\Inserts;
use Hafen\Session\Insert\OtherSetting;
use Hafen\Session\Insert\ProcessorInsert;
use Hafen\Session\Insert\Row;
use Hafen\Session\Session;

/** The sound files a session names: those of its clips, recordings its effects work with, and what frozen channels play. */
final class SessionFiles
{
    /** @return list<string> each once */
    public static function of(Session $session, ProcessorCatalogue $processors): array
    {
        $files = [];
        foreach ($session->channels as $channel) {
            foreach ($channel->source->clips() as $clip) {
                $files[] = $clip->file;
            }
            foreach ($channel->versions as $version) {
                array_push($files, ...array_map(static fn (Clip $clip): string => $clip->file, $version->clips));
            }
            if ($channel->frozen !== null) {
                $files[] = $channel->frozen->file;
            }
            foreach ($channel->allInserts() as $insert) {
                if ($insert instanceof ProcessorInsert) {
                    array_push($files, ...self::ofInsert($insert, $processors));
                }
            }
        }

        return array_values(array_unique($files));
    }

    /**
     * The session with its files called otherwise.
     *
     * @param  array<array-key, string>  $names  new names by present ones; a file that is not among them keeps its name
     */
    public static function renamed(Session $session, ProcessorCatalogue $processors, array $names): Session
    {
        $insert = static fn (ProcessorInsert $insert): ProcessorInsert => self::renamedIn($insert, $processors, $names);
        $clip = static fn (Clip $clip): Clip => $clip->withFile($names[$clip->file] ?? $clip->file);

        return $session->withChannels(array_map(static function (Channel $channel) use ($insert, $clip, $names): Channel {
            $channel = $channel->source instanceof ClipSource ? $channel->withClips(array_map($clip, $channel->source->clips)) : $channel;
            $channel = $channel->withVersions(array_map(static fn (Version $version): Version => $version->withClips(array_map($clip, $version->clips)), $channel->versions));
            if ($channel->frozen !== null) {
                $channel = $channel->withFrozen($channel->frozen->withFile($names[$channel->frozen->file] ?? $channel->frozen->file, $channel->frozen->hash));
            }
            foreach (Row::cases() as $row) {
                $channel = $channel->withRow($row, Inserts::changeProcessors($channel->row($row), $insert));
            }

            return $channel;
        }, $session->channels));
    }

    /** @param  array<array-key, string>  $names */
    private static function renamedIn(ProcessorInsert $insert, ProcessorCatalogue $processors, array $names): ProcessorInsert
    {
        $renamed = static function (array $parameters) use ($insert, $processors, $names): array {
            foreach ($processors->spec($insert->processor)->parameters as $parameter) {
                $file = $parameters[$parameter->id] ?? null;
                if ($parameter->kind === ParameterKind::AudioFile && is_string($file) && isset($names[$file])) {
                    $parameters[$parameter->id] = $names[$file];
                }
            }

            /** @var array<string, float|string|bool> $parameters */
            return $parameters;
        };
        $insert = $insert->withParameters($renamed($insert->parameters));

        return $insert->other === null ? $insert : $insert->withOther(new OtherSetting($insert->other->side, $renamed($insert->other->parameters)));
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
