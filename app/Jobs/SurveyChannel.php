<?php

declare(strict_types=1);

namespace App\Jobs;

use App\Models\Survey;
use App\Models\SurveyPart;
use App\Surveys\SurveyDesk;
use App\Work\Claim;
use Illuminate\Contracts\Queue\ShouldQueue;
use Illuminate\Foundation\Queue\Queueable;

/** Measures one pass of a survey. */
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
        $this->job?->delete();
        // Any job of a survey does what is wanted first.
        $part = $desk->first(SurveyPart::query()->findOrFail($this->partId));
        Claim::work($part, static function (Claim $claim) use ($desk, $part): void {
            $survey = Survey::query()->findOrFail($part->survey_id);
            if ($desk->measure($survey, $part->channel, $claim->beat(...), $claim)) {
                $claim->finish(['status' => 'done', 'progress' => 1.0, 'levels' => null]);
            }
        });
    }
}
