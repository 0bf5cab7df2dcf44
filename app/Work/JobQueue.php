<?php

declare(strict_types=1);

namespace App\Work;

use Illuminate\Database\Eloquent\Model;
use Illuminate\Support\Facades\Queue;

/** Tasks for workers that have the same database: a job only says which task to do. */
final readonly class JobQueue implements TaskQueue
{
    public function __construct(private TaskJobs $jobs)
    {
    }

    public function put(Model&Task $task): void
    {
        Queue::push($this->jobs->of($task), '', $task->queue());
    }

    public function isEmpty(string $queue): bool
    {
        return Queue::connection()->pendingSize($queue) === 0;
    }
}
