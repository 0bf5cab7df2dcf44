<?php

declare(strict_types=1);

namespace App\Jobs;

use App\Models\Survey;
use App\Sessions\EngineFactory;
use Hafen\Audio\Decibel;
use Hafen\Engine\Fault;
use Hafen\Metering\TapReading;
use Hafen\Refusal;
use Hafen\Session\SessionCodec;
use Hafen\Survey\SessionSurvey;
use Illuminate\Contracts\Queue\ShouldQueue;
use Illuminate\Foundation\Queue\Queueable;
use Throwable;

/** Measures one state of a session over its whole length. */
final class SurveySession implements ShouldQueue
{
    use Queueable;

    public int $timeout = 0;

    public int $tries = 1;

    public function __construct(private readonly int $surveyId, private readonly string $document)
    {
    }

    public function handle(SessionCodec $codec, EngineFactory $engines): void
    {
        $survey = Survey::query()->findOrFail($this->surveyId);
        if (Survey::query()->whereKey($survey->id)->where('status', 'waiting')->update(['status' => 'running', 'beat_at' => now()]) === 0) {
            return;
        }
        try {
            $session = $codec->decode($this->document);
            $result = (new SessionSurvey($engines->compiler($session->sampleRate)))->measure($session, (new Heartbeat($survey))->beat(...));
        } catch (Refusal $refusal) {
            $survey->update(['status' => 'failed', 'message' => $refusal->line()]);

            return;
        }
        if ($result === null) {
            return;
        }
        $survey->update(['status' => 'done', 'progress' => 1.0, 'result' => [
            'frames' => $result->frames,
            'taps' => array_map(static fn (TapReading $reading): array => [
                'peak' => $reading->peakLevel(),
                'rms' => $reading->rmsLevel(),
                'overs' => $reading->overs,
                'reduction' => $reading->gainReduction,
            ], $result->taps),
            'overview' => array_map(static fn (float $peak): float => round($peak, 4), $result->overview),
            'loads' => $result->loads,
            'loudness' => $result->loudness->integrated,
            'loudnessRange' => $result->loudness->range,
            'truePeak' => $result->truePeak,
            'loudest' => $result->loudest === null ? null : [
                'position' => $result->loudest->position,
                'level' => Decibel::fromGain(abs($result->loudest->value)),
                'shares' => $result->loudest->shares(),
            ],
            'faults' => array_map(static fn (Fault $fault): string => $fault->channel, $result->faults),
        ]]);
    }

    public function failed(?Throwable $exception): void
    {
        Survey::query()->whereKey($this->surveyId)->update(['status' => 'failed', 'message' => 'The survey stopped unexpectedly.']);
    }
}
