<?php

declare(strict_types=1);

namespace App\Surveys;

use Hafen\Audio\Decibel;
use Hafen\Engine\Fault;
use Hafen\Headroom\EnergyShares;
use Hafen\Headroom\Relief;
use Hafen\Metering\OverRegion;
use Hafen\Metering\TapReading;
use Hafen\Session\Session;
use Hafen\Survey\ChannelRun;
use Hafen\Survey\ClippedClip;
use Hafen\Survey\LoudestMoment;
use Hafen\Survey\SurveyResult;

/** The figures of a survey as the browser gets them: levels in dBFS, dBTP and LUFS, places in samples. */
final class SurveyFigures
{
    /** dB by which a channel is lowered to see what it would free. */
    private const LOWERED = 6.0;

    /** dB a noise floor lies below the average at least. */
    private const FLOOR_BELOW = 12.0;

    /** @return array<string, mixed> */
    public static function toArray(Session $session, SurveyResult $result): array
    {
        $loudness = $result->loudness();
        $loudest = $result->loudest();

        return [
            'from' => $result->range->from,
            'to' => $result->range->to,
            'taps' => (object) array_map(self::tap(...), $result->taps),
            'channels' => (object) self::channels($result),
            'overview' => array_map(static fn (float $peak): float => round($peak, 4), $result->main->overview ?? []),
            'overs' => array_map(static fn (OverRegion $region): array => [
                'from' => $region->from,
                'to' => $region->to,
                'samples' => $region->samples,
                'peak' => Decibel::fromGain($region->peak),
            ], $result->main->overs ?? []),
            'samplesOver' => $result->main->samplesOver ?? 0,
            'loads' => (object) $result->loads,
            'load' => self::isHeard($session) ? $result->load($session) : null,
            'clips' => $result->tapsAboveFullScale(),
            'loudness' => $loudness?->integrated,
            'loudnessRange' => $loudness?->range,
            'momentary' => $loudness?->highestMomentary,
            'shortTerm' => $loudness?->highestShortTerm,
            'truePeak' => $result->truePeak(),
            'loudest' => $loudest === null ? null : self::moment($loudest),
            'energy' => (object) ($result->main === null ? [] : EnergyShares::of($session, $result)->channels),
            'relief' => (object) self::relief($result),
            'faults' => array_map(static fn (Fault $fault): string => $fault->channel, $result->faults),
        ];
    }

    /**
     * Newer figures over older ones, where there are any.
     *
     * @param  array<array-key, mixed>  $older
     * @param  array<string, mixed>  $newer
     * @return array<array-key, mixed>
     */
    public static function over(array $older, array $newer): array
    {
        $measured = (array) $newer['taps'];
        $older['clips'] = [
            ...array_filter((array) ($older['clips'] ?? []), static fn (mixed $tap): bool => is_string($tap) && ! isset($measured[$tap])),
            ...(array) $newer['clips'],
        ];
        $older['load'] = $newer['load'] ?? $older['load'] ?? null;
        foreach (['taps', 'channels', 'loads'] as $map) {
            $older[$map] = (object) ((array) $newer[$map] + (array) ($older[$map] ?? []));
        }
        if ($newer['overview'] !== []) {
            foreach (['overview', 'overs', 'samplesOver', 'loudness', 'loudnessRange', 'momentary', 'shortTerm', 'truePeak'] as $figure) {
                $older[$figure] = $newer[$figure];
            }
        }
        if ($newer['loudest'] !== null) {
            $older['loudest'] = $newer['loudest'];
            $older['relief'] = $newer['relief'];
        }

        return $older;
    }

    /**
     * Adds what becomes of the main's peaks in the session as it is now: "clips" where they go out, "over" where nothing takes
     * them yet, "below" full scale; null before it is measured. Where the main goes changes no sound, so figures measured before stay valid.
     *
     * @param  array<array-key, mixed>  $figures
     * @return array<array-key, mixed>
     */
    public static function withHeadroom(Session $session, array $figures): array
    {
        $main = $session->main();
        $taps = (array) ($figures['taps'] ?? []);
        $reading = (array) ($taps["{$main->id}:post-fader"] ?? []);
        $overs = $reading['overs'] ?? null;

        return ['headroom' => $overs === null ? null : ($overs <= 0 ? 'below' : ($main->output === 'none' ? 'over' : 'clips'))] + $figures;
    }

    /** @return array<string, mixed> */
    public static function moment(LoudestMoment $moment): array
    {
        return [
            'position' => $moment->position,
            'level' => Decibel::fromGain($moment->value),
            'shares' => (object) $moment->shares(),
        ];
    }

    /**
     * Levels of what is being measured: what came up to now.
     *
     * @param  array<ChannelRun>  $runs
     * @return object by tap key
     */
    public static function soFar(array $runs): object
    {
        $taps = [];
        foreach ($runs as $run) {
            $taps += array_map(self::tap(...), $run->soFar());
        }

        return (object) $taps;
    }

    /** Whether there is anything to play: what runs without sound says nothing of a load. */
    private static function isHeard(Session $session): bool
    {
        foreach ($session->channels as $channel) {
            if ($channel->source->clips() !== []) {
                return true;
            }
        }

        return false;
    }

    /** @return array<string, mixed> */
    private static function tap(TapReading $reading): array
    {
        return [
            'peak' => $reading->peakLevel(),
            'rms' => $reading->rmsLevel(),
            'overs' => $reading->overs,
            'reduction' => $reading->gainReduction,
            'peakAt' => $reading->peakAt,
            'firstOver' => $reading->firstOver,
            'floor' => self::noiseFloor($reading),
        ];
    }

    /** The noise floor; null where the quietest moments are the sound itself. */
    private static function noiseFloor(TapReading $reading): ?float
    {
        $floor = $reading->floorLevel();
        $average = $reading->rmsLevel();

        return $floor !== null && $average !== null && $floor < $average - self::FLOOR_BELOW ? $floor : null;
    }

    /** @return array<string, array<string, mixed>> by channel id */
    private static function channels(SurveyResult $result): array
    {
        $channels = [];
        foreach ($result->outputs as $id => $output) {
            $source = $result->sources[$id] ?? null;
            $channels[$id] = [
                'loudness' => $output->loudness->integrated,
                'truePeak' => $output->truePeak,
                'correlation' => $output->correlation,
                'clipped' => array_map(static fn (ClippedClip $clip): array => [
                    'clip' => $clip->clip,
                    'places' => $clip->places,
                    'first' => $clip->first,
                ], $source->clipped ?? []),
            ];
        }

        return $channels;
    }

    /** @return array<string, array{lowered: float, silent: float}> dB the peak falls, by channel id */
    private static function relief(SurveyResult $result): array
    {
        $relief = new Relief($result->moments());
        $channels = [];
        foreach (array_keys($result->loudest()->contributions ?? []) as $id) {
            $channels[$id] = ['lowered' => $relief->of((string) $id, self::LOWERED), 'silent' => $relief->of((string) $id, null)];
        }

        return $channels;
    }
}
