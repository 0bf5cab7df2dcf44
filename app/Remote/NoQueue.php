<?php

declare(strict_types=1);

namespace App\Remote;

use App\Work\Task;
use App\Work\TaskQueue;
use Illuminate\Database\Eloquent\Model;

/** A worker gives nothing out: the application does, from what it reports. */
final readonly class NoQueue implements TaskQueue
{
    public function put(Model&Task $task): void
    {
    }

    public function isEmpty(string $queue): bool
    {
        return true;
    }
}
