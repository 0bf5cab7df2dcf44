<?php

declare(strict_types=1);

namespace App\Remote;

use App\Jobs\DoOrder;
use App\Work\QueueTrouble;
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

    public function __construct(private readonly Orders $orders, private readonly SharedFiles $files, private readonly QueueTrouble $trouble)
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
        } catch (Throwable $failure) {
            report($failure);
            $this->trouble->say('What a task needs cannot be put where the workers find it', $failure);

            return;
        }
        try {
            Queue::push(new DoOrder($order->packed()), '', $task->queue());
            $this->trouble->end();
        } catch (Throwable $failure) {
            report($failure);
            $this->trouble->say(self::redisIsAway(), $failure);
        }
    }

    public function isEmpty(string $queue): bool
    {
        try {
            return Queue::connection()->pendingSize($queue) === 0;
        } catch (Throwable $failure) {
            $this->trouble->say(self::redisIsAway(), $failure);

            return false;
        }
    }

    private static function redisIsAway(): string
    {
        $host = config('database.redis.default.host');
        $port = config('database.redis.default.port');

        return sprintf('Redis at %s:%s does not take tasks', is_string($host) ? $host : '', is_scalar($port) ? $port : '');
    }
}
