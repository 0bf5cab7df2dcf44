<?php

declare(strict_types=1);

namespace App\Remote;

use App\Jobs\DoOrder;
use App\Models\Media;
use App\Work\Task;
use App\Work\TaskQueue;
use Illuminate\Database\Eloquent\Model;
use Illuminate\Support\Facades\Queue;
use Throwable;

/** Tasks for workers of any machine: what a job needs goes with it. */
final readonly class OrderQueue implements TaskQueue
{
    public function __construct(private SharedFiles $files)
    {
    }

    /** Where Redis cannot be reached the task waits; the supervisor gives it out again. */
    public function put(Model&Task $task): void
    {
        try {
            $order = Orders::of($task, $this->files->word());
            if ($this->files->isNeeded()) {
                foreach (Media::query()->whereIn('id', array_column($order->rows['media'] ?? [], 'id'))->get() as $media) {
                    $this->files->share(WorkerFiles::placesOf($media, [(int) $media->prepare_rate]));
                }
            }
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
