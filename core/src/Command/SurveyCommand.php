<?php

declare(strict_types=1);

namespace Hafen\Command;

use Hafen\Audio\Decibel;
use Hafen\Metering\TapReading;
use Hafen\Survey\SurveyResult;

/** Measures a session over its whole length. */
final readonly class SurveyCommand implements Command
{
    public function name(): string
    {
        return 'survey';
    }

    public function usage(): string
    {
        return 'survey SESSION.json [--json]';
    }

    public function arguments(array $words): Arguments
    {
        return Arguments::parse($words, ['SESSION.json'], [], ['json']);
    }

    public function run(Arguments $arguments, Terminal $terminal): int
    {
        $path = $arguments->position(0);
        $session = $terminal->open($path);
        $result = $terminal->measured($session, $path);
        if (! $arguments->has('json')) {
            foreach ($result->taps as $key => $reading) {
                $terminal->say(sprintf(
                    '%-40s peak %12s  RMS %12s  overs %d',
                    $key,
                    Decibel::text($reading->peakLevel(), 'dBFS', true),
                    Decibel::text($reading->rmsLevel(), 'dBFS', true),
                    $reading->overs,
                ));
            }

            $terminal->say(sprintf(
                'Main: %s, range %s, true peak %s',
                self::figure($result->loudness()?->integrated, 'LUFS'),
                self::figure($result->loudness()?->range, 'LU', false),
                self::figure($result->truePeak(), 'dBTP'),
            ));
            $loudest = $result->loudest();
            if ($loudest !== null) {
                $terminal->say(sprintf(
                    'What fills it at sample %d, before its inserts: %s',
                    $loudest->position,
                    implode(', ', array_map(
                        static fn (int|string $id, float $share): string => sprintf('%s %d %%', $session->channel((string) $id)->name ?? $id, (int) round(100 * $share)),
                        array_keys($loudest->shares()),
                        $loudest->shares(),
                    )),
                ));
            }

            return 0;
        }
        $channels = [];
        foreach ($session->channels as $channel) {
            $taps = [];
            foreach ($result->taps as $key => $reading) {
                [$id, $stage] = explode(':', (string) $key, 2);
                if ($id === $channel->id) {
                    $taps[$stage] = self::reading($reading);
                }
            }
            $channels[] = ['id' => $channel->id, 'name' => $channel->name, 'kind' => $channel->kind->value, 'taps' => $taps];
        }
        $terminal->json(['name' => $session->name, 'sampleRate' => $session->sampleRate, 'length' => $result->range->frames(), 'main' => self::main($result), 'channels' => $channels]);

        return 0;
    }

    /** @return array<string, mixed> LUFS, LU, dBTP; the loudest moment and the signed share each channel has in it */
    private static function main(SurveyResult $result): array
    {
        $loudest = $result->loudest();

        return [
            'loudness' => $result->loudness()?->integrated,
            'loudnessRange' => $result->loudness()?->range,
            'truePeak' => $result->truePeak(),
            'loudest' => $loudest === null ? null : ['position' => $loudest->position, 'value' => $loudest->value, 'shares' => (object) $loudest->shares()],
        ];
    }

    private static function figure(?float $value, string $unit, bool $signed = true): string
    {
        return $value === null ? "no {$unit}" : Decibel::text($value, $unit, $signed);
    }

    /** @return array{peak: ?float, rms: ?float, overs: int} levels in dBFS */
    private static function reading(TapReading $reading): array
    {
        return ['peak' => $reading->peakLevel(), 'rms' => $reading->rmsLevel(), 'overs' => $reading->overs];
    }
}
