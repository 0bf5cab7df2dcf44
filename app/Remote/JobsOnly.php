<?php

declare(strict_types=1);

namespace App\Remote;

use App\Jobs\JobsOfTasks;
use App\Work\Task;
use App\Work\TaskJobs;
use Illuminate\Contracts\Queue\ShouldQueue;
use Illuminate\Database\Eloquent\Model;

/** A worker does jobs; what follows them is up to the application. */
final readonly class JobsOnly implements TaskJobs
{
    public function __construct(private JobsOfTasks $jobs)
    {
    }

    public function of(Model&Task $task): ShouldQueue
    {
        return $this->jobs->of($task);
    }

    public function settle(Model&Task $task): void
    {
    }
}
