<?php

declare(strict_types=1);

namespace App\Jobs;

use App\Models\LoadRun;
use App\Models\Media;
use App\Models\PrintPart;
use App\Models\RemedyPlan;
use App\Models\Render;
use App\Models\Survey;
use App\Models\SurveyPart;
use App\Plans\PlanDesk;
use App\Prints\PrintDesk;
use App\Surveys\SurveyDesk;
use App\Work\Task;
use App\Work\TaskJobs;
use Illuminate\Contracts\Queue\ShouldQueue;
use Illuminate\Database\Eloquent\Model;
use LogicException;

final readonly class JobsOfTasks implements TaskJobs
{
    public function of(Model&Task $task): ShouldQueue
    {
        return match (true) {
            $task instanceof Media => new PrepareMedia($task->id),
            $task instanceof Render => new RenderSession($task->id),
            $task instanceof SurveyPart => new SurveyChannel($task->id),
            $task instanceof RemedyPlan => new PredictPlan($task->id, isProof: $task->prediction !== null),
            $task instanceof PrintPart => new PrintChannel($task->id),
            $task instanceof LoadRun => new MeasureLoad($task->id),
            default => throw new LogicException('No job does a '.$task::class),
        };
    }

    public function settle(Model&Task $task): void
    {
        if ($task instanceof SurveyPart && $task->status === 'done') {
            app(SurveyDesk::class)->goOn(Survey::query()->findOrFail($task->survey_id));
        } elseif ($task instanceof PrintPart && $task->status !== 'waiting') {
            app(PrintDesk::class)->goOn($task->batch()->firstOrFail());
        } elseif ($task instanceof RemedyPlan) {
            app(PlanDesk::class)->prove($task);
        }
    }
}
