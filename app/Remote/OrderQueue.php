<?php

declare(strict_types=1);

namespace App\Remote;

use App\Jobs\DoOrder;
use App\Work\Task;
use App\Work\TaskQueue;
use Illuminate\Database\Eloquent\Model;
use Illuminate\Support\Facades\Queue;
use Throwable;

/** Tasks for workers of any machine: what a job needs goes with it. */
final class OrderQueue implements TaskQueue
{
    /** @var array<array-key, true> files that are on the shared disk, so that it is not asked again for each part of a survey */
    private array $shared = [];

    public function __construct(private readonly Orders $orders, private readonly SharedFiles $files)
    {
    }

    /** Where Redis cannot be reached the task waits; the supervisor gives it out again. */
    public function put(Model&Task $task): void
    {
        try {
            $order = $this->orders->of($task);
            $files = array_values(array_filter($order->files, fn (string $file): bool => ! isset($this->shared[$file])));
            $this->files->share($files);
            $this->shared += array_fill_keys($files, true);
            Queue::push(new DoOrder($order->packed()), '', $task->queue());
        } catch (Throwable $failure) {
            report($failure);
        }
    }

    public function isEmpty(string $queue): bool
    {
        try {
            return Queue::connection()->pendingSize($queue) === 0;
        } catch (Throwable) {
            return false;
        }
    }
}
