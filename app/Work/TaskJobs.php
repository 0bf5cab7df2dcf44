<?php

declare(strict_types=1);

namespace App\Work;

use Illuminate\Contracts\Queue\ShouldQueue;
use Illuminate\Database\Eloquent\Model;

/** Which job does a task: what is stored does not know. */
interface TaskJobs
{
    public function of(Model&Task $task): ShouldQueue;
}
