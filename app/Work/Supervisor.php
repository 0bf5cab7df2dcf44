<?php

declare(strict_types=1);

namespace App\Work;

use App\Models\LoadRun;
use App\Models\Media;
use App\Models\PrintBatch;
use App\Models\PrintPart;
use App\Models\RemedyPlan;
use App\Models\Render;
use App\Models\Survey;
use App\Models\SurveyPart;
use App\Prints\PrintDesk;
use App\Surveys\SurveyDesk;
use Illuminate\Database\Eloquent\Model;

/**
 * Finds what is left behind when a worker is killed: tasks it had, tasks whose job is lost, surveys and freezes nobody goes on with. They are begun
 * again, and end with a message when that was tried often enough.
 */
final readonly class Supervisor
{
    /** @var list<class-string<Model&Task>> */
    public const TASKS = [Render::class, SurveyPart::class, RemedyPlan::class, Media::class, PrintPart::class, LoadRun::class];

    /** Seconds after which a task that waits, with nothing before it in its queue, has lost its job. */
    private const JOB_LOST_AFTER = 5;

    public function __construct(private SurveyDesk $surveys, private PrintDesk $prints, private TaskQueue $queue)
    {
    }

    /** @return int how many were begun again or ended */
    public function look(): int
    {
        $found = 0;
        foreach (self::TASKS as $class) {
            foreach ($class::query()->whereIn('status', ['running', 'stopping'])->get() as $task) {
                $found += self::isLost($task) ? self::reclaim($task) : 0;
            }
            foreach ($class::query()->where('status', 'waiting')->get() as $task) {
                $found += $this->requeue($task);
            }
        }
        foreach (Survey::query()->where('status', 'running')->where('updated_at', '<', now()->subSeconds(self::JOB_LOST_AFTER))->get() as $survey) {
            if (! $survey->parts()->whereIn('status', ['waiting', 'running', 'stopping'])->exists()) {
                $this->surveys->goOn($survey);
                ++$found;
            }
        }

        // A worker that was killed while it put files into a session: what it had done is found by the batch's word.
        PrintBatch::query()->where('status', 'placing')->where('updated_at', '<', now()->subSeconds(Claim::LOST_AFTER))->update(['status' => 'running']);
        foreach (PrintBatch::query()->where('status', 'running')->where('updated_at', '<', now()->subSeconds(self::JOB_LOST_AFTER))->get() as $batch) {
            if (! $batch->parts()->whereIn('status', ['waiting', 'running', 'stopping'])->exists()) {
                $this->prints->goOn($batch);
                ++$found;
            }
        }

        return $found;
    }

    private static function isLost(Model&Task $task): bool
    {
        $beat = $task->getAttribute('beat_at');

        return $beat === null || $beat < now()->subSeconds(Claim::LOST_AFTER);
    }

    private static function reclaim(Model&Task $task): int
    {
        // As it was when it was read: a worker that beats meanwhile, or ends it, keeps it.
        $same = $task->newQuery()->whereKey($task->getKey())
            ->where('status', $task->getAttribute('status'))->where('claim', $task->getAttribute('claim'))->where('beat_at', $task->getRawOriginal('beat_at'));
        if ($task->getAttribute('status') === 'stopping') {
            return $same->update(['status' => 'stopped', 'claim' => null]);
        }
        if ($task->getAttribute('attempts') >= Claim::MOST_ATTEMPTS) {
            $ended = $same->update(['claim' => null, 'status' => 'stopping']);
            if ($ended > 0) {
                $task->refresh()->update($task->failed(sprintf('%s was begun %d times, and each time its worker was gone before it was done. Is there enough memory?', $task->name(), Claim::MOST_ATTEMPTS)));
            }

            return $ended;
        }
        $again = $same->update(['status' => 'waiting', 'claim' => null, 'progress' => 0.0]);
        if ($again > 0) {
            Claim::queue($task->refresh());
        }

        return $again;
    }

    private function requeue(Model&Task $task): int
    {
        $queued = $task->getAttribute('queued_at');
        if ($queued !== null && $queued >= (string) now()->subSeconds(self::JOB_LOST_AFTER)) {
            return 0;
        }
        // Where others wait in its queue its turn has not come.
        if (! $this->queue->isEmpty($task->queue())) {
            return 0;
        }
        Claim::queue($task);

        return 1;
    }
}
