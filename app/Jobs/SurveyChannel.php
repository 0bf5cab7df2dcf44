<?php

declare(strict_types=1);

namespace App\Jobs;

use App\Models\Survey;
use App\Models\SurveyPart;
use App\Surveys\SurveyDesk;
use Hafen\Refusal;
use Illuminate\Contracts\Queue\ShouldQueue;
use Illuminate\Foundation\Queue\Queueable;
use Throwable;

/** Measures what is missing of one channel, and has those follow that waited for it. */
final class SurveyChannel implements ShouldQueue
{
    use Queueable;

    public int $timeout = 0;

    public int $tries = 1;

    public function __construct(private readonly int $partId)
    {
    }

    public function handle(SurveyDesk $desk): void
    {
        if (SurveyPart::query()->whereKey($this->partId)->where('status', 'waiting')->update(['status' => 'running', 'beat_at' => now()]) === 0) {
            return;
        }
        $part = SurveyPart::query()->findOrFail($this->partId);
        $survey = Survey::query()->findOrFail($part->survey_id);
        try {
            if ($desk->measure($survey, $part->channel, (new Heartbeat($part))->beat(...))) {
                SurveyPart::query()->whereKey($part->id)->update(['status' => 'done', 'progress' => 1.0]);
                $desk->goOn($survey);
            }
        } catch (Refusal $refusal) {
            Survey::query()->whereKey($survey->id)->where('status', 'running')->update(['status' => 'failed', 'message' => $refusal->line()]);
        }
    }

    public function failed(?Throwable $exception): void
    {
        $part = SurveyPart::query()->find($this->partId);
        Survey::query()->whereKey($part?->survey_id)->where('status', 'running')->update(['status' => 'failed', 'message' => 'The survey stopped unexpectedly. Start it again.']);
    }
}
