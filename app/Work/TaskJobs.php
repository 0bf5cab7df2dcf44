<?php

declare(strict_types=1);

namespace App\Work;

use Illuminate\Contracts\Queue\ShouldQueue;
use Illuminate\Database\Eloquent\Model;

/** Which job does a task, and what follows it: what is stored does not know. */
interface TaskJobs
{
    public function of(Model&Task $task): ShouldQueue;

    /** Goes on with what waited for a task that ended, where the database of the session is. */
    public function settle(Model&Task $task): void;
}
