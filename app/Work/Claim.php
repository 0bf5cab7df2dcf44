<?php

declare(strict_types=1);

namespace App\Work;

use Closure;
use Hafen\Audio\SampleLoops;
use Hafen\Refusal;
use Illuminate\Database\Eloquent\Builder;
use Illuminate\Database\Eloquent\Model;
use Throwable;

/**
 * A worker's hold on a task. What it writes counts only while it has the task: one that was taken for lost, and whose task another
 * worker did meanwhile, changes nothing any more.
 */
final class Claim
{
    /** Seconds without a beat after which a worker is taken for lost. */
    public const LOST_AFTER = 20;

    /** Times a task is begun before it is given up. */
    public const MOST_ATTEMPTS = 3;

    private const BEAT_EVERY = 0.3;

    /** Seconds that are worked at the least between two waits for what plays. */
    private const STINT = 0.02;

    private float $beaten = 0.0;

    /** Since when it has worked without waiting. */
    private float $workedFrom;

    /** Share of its time it may take, and when that was looked up. */
    private float $share = 1.0;

    private float $shareAt = 0.0;

    private bool $leaving = false;

    /** @var ?Closure(): bool whether something else needs what it uses; throws where that is gone */
    private ?Closure $leaveWhen = null;

    private function __construct(public readonly Model&Task $task, private readonly string $word, private readonly PlaybackLoad $playback, private readonly Overseer $overseer)
    {
        $this->workedFrom = microtime(true);
    }

    /** Has a task be done by the queue. */
    public static function queue(Model&Task $task): void
    {
        $task->newQuery()->whereKey($task->getKey())->where('status', 'waiting')->update(['queued_at' => now()]);
        app(TaskQueue::class)->put($task);
    }

    /**
     * Does a task if it waits, and has follow what waited for it; otherwise it is another's, or has ended.
     *
     * @param  callable(self): void  $work  ends with {@see finish()}
     */
    public static function work(Model&Task $task, callable $work): void
    {
        $claim = new self($task, bin2hex(random_bytes(8)), app(PlaybackLoad::class), app(Overseer::class));
        $taken = $task->newQuery()->whereKey($task->getKey())->where('status', 'waiting')->update([
            'status' => 'running', 'claim' => $claim->word, 'beat_at' => now(), 'progress' => 0.0,
            'attempts' => $task->newQuery()->getConnection()->raw('attempts + 1'),
        ]);
        if ($taken === 0) {
            return;
        }
        $task->refresh();
        // Console commands switch asynchronous signals on; sample loops must not be interrupted.
        SampleLoops::keepSignalsOut();
        try {
            $work($claim);
        } catch (Refusal $refusal) {
            if (! $claim->leaving) {
                $claim->fail($refusal->getMessage());
            }
        } catch (Throwable $failure) {
            report($failure);
            $claim->fail("{$task->name()} stopped unexpectedly. Start it again.");
        }
        if ($claim->leaving) {
            $claim->giveBack();
        }
        $ended = $task->fresh();
        if ($ended instanceof Task) {
            app(TaskJobs::class)->settle($ended);
        }
    }

    /**
     * To be called often while working: takes signals, waits while something plays that needs the machine, and a few times a second
     * tells that the worker is alive.
     *
     * @param  ?callable(): array<string, mixed>  $found  columns of the task that show what it found so far; asked as often as it beats
     * @return bool false when the work should stop: somebody wants that, another worker has it, or this worker has to leave
     */
    public function beat(int $done = 0, int $total = 0, ?callable $found = null): bool
    {
        return $this->goesOn($done, $total, $found) && $this->givesWay($done, $total);
    }

    /** @param  ?callable(): array<string, mixed>  $found */
    private function goesOn(int $done, int $total, ?callable $found = null): bool
    {
        SampleLoops::pause();
        if (app(QueueWorker::class)->shouldQuit) {
            $this->leaving = true;

            return false;
        }
        $now = microtime(true);
        if ($now - $this->beaten < self::BEAT_EVERY) {
            return true;
        }
        $this->beaten = $now;
        if ($this->leaveWhen !== null && ($this->leaveWhen)()) {
            $this->leaving = true;

            return false;
        }
        $columns = [
            ...($total > 0 ? ['progress' => $done / $total] : []),
            ...($found === null ? [] : $found()),
        ];

        return $this->mine()->where('status', 'running')->update(['beat_at' => now(), ...$columns]) > 0 && $this->overseer->beaten($columns);
    }

    /** Waits as long as playing needs the machine; false when the work should stop meanwhile. */
    private function givesWay(int $done, int $total): bool
    {
        $from = microtime(true);
        if ($this->shareAt < $from - 0.1) {
            $this->share = $this->playback->shareOfWorker();
            $this->shareAt = $from;
        }
        $worked = $from - $this->workedFrom;
        if ($this->share > 0.0 && $this->share < 1.0 && $worked < self::STINT) {
            return true;
        }
        while ($this->share < 1.0 && ($this->share === 0.0 || microtime(true) - $from < $worked * (1.0 / $this->share - 1.0))) {
            usleep(20_000);
            if (! $this->goesOn($done, $total)) {
                return false;
            }
            $this->share = $this->playback->shareOfWorker();
        }
        $this->workedFrom = microtime(true);

        return true;
    }

    /**
     * Writes how a task ended, or what comes next of it.
     *
     * @param  array<string, mixed>  $values
     * @return bool false when it is another's by now, or was ended meanwhile
     */
    public function finish(array $values): bool
    {
        $this->task->fill($values);
        $written = $this->mine()->whereIn('status', ['running', 'stopping'])->update([...$this->task->getDirty(), 'claim' => null]) > 0;
        $this->task->refresh();

        return $written;
    }

    private function fail(string $message): void
    {
        $this->overseer->failed($message);
        $this->finish($this->task->failed($message));
    }

    /**
     * Has the task begin anew later as soon as something else needs what it uses.
     *
     * @param  ?Closure(): bool  $leaveWhen  asked a few times a second; what it throws ends the task
     */
    public function leaveWhen(?Closure $leaveWhen): void
    {
        $this->leaveWhen = $leaveWhen;
    }

    /** Whether it stopped because it, or its worker, has to leave. */
    public function isLeaving(): bool
    {
        return $this->leaving;
    }

    /** Lets another worker begin it anew. That this one leaves is not the task's fault. */
    private function giveBack(): void
    {
        $given = $this->mine()->where('status', 'running')->update([
            'status' => 'waiting', 'claim' => null, 'progress' => 0.0,
            'attempts' => $this->task->newQuery()->getConnection()->raw('max(attempts - 1, 0)'),
        ]);
        if ($given > 0) {
            self::queue($this->task->refresh());
        }
    }

    /** @return Builder<covariant Model> */
    private function mine(): Builder
    {
        return $this->task->newQuery()->whereKey($this->task->getKey())->where('claim', $this->word);
    }
}
