<?php

declare(strict_types=1);

namespace App\Work;

use Illuminate\Database\Eloquent\Model;

/** Where tasks wait for a worker. */
interface TaskQueue
{
    public function put(Model&Task $task): void;

    /** Whether nothing waits there; false where that cannot be told. */
    public function isEmpty(string $queue): bool;
}
