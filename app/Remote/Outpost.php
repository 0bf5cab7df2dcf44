<?php

declare(strict_types=1);

namespace App\Remote;

use App\Work\Overseer;
use App\Work\QueueWorker;
use App\Work\Task;
use App\Work\TaskJobs;
use Hafen\Audio\SampleLoops;
use Hafen\Refusal;
use Illuminate\Contracts\Console\Kernel;
use Illuminate\Contracts\Foundation\Application;
use Illuminate\Database\Eloquent\Model;
use Illuminate\Support\Facades\DB;
use Illuminate\Support\Facades\Log;
use Illuminate\Support\Facades\Schema;
use LogicException;
use Throwable;

/**
 * Does orders on a worker's machine: puts their rows into a database of its own in memory, runs the job that does such tasks anywhere, and
 * reports what it changed.
 */
final class Outpost implements Overseer
{
    private const TABLES = ['survey_parts', 'surveys', 'remedy_plans', 'print_parts', 'print_batches', 'load_runs', 'renders', 'media', 'sessions'];

    /** Seconds for which it is tried to report how a task ended. */
    private const PATIENCE = 900;

    /** Seconds until a worker that is set up wrongly ends. */
    private const AFTER_REFUSAL = 3;

    private ?Order $order = null;

    private string $failure = '';

    public function __construct(private readonly Wire $wire, private readonly Application $app, private readonly WorkerFiles $files)
    {
    }

    /** @throws LogicException when this is no worker: its database would be emptied */
    public function do(Order $order): void
    {
        if (config('hafen.role') !== 'worker' || DB::connection()->getDatabaseName() !== ':memory:') {
            throw new LogicException('An order came to a process that is no worker. Start workers with bin/worker.');
        }
        if (! $this->wire->take($order->word)) {
            return;
        }
        $this->order = $order;
        $this->failure = '';
        $this->wire->tell($this->report(ReportKind::Taken));
        if (! $this->files->areThoseOf($order)) {
            $this->refuse();

            return;
        }
        $task = $this->load($order);
        try {
            $this->files->need($order);
            $handle = [$this->app->make(TaskJobs::class)->of($task), 'handle'];
            assert(is_callable($handle));
            $this->app->call($handle);
        } catch (Refusal $refusal) {
            $this->failed($refusal->getMessage());
        } catch (Throwable $failure) {
            report($failure);
            $this->failed("{$task->name()} stopped unexpectedly. Start it again.");
        }
        $this->tellEnd($order, $task);
        $this->order = null;
    }

    public function beaten(array $columns): bool
    {
        if ($this->order === null) {
            return true;
        }
        try {
            $this->wire->tell($this->report(ReportKind::Beat, $columns));

            return ! $this->wire->isStopped($this->order->word);
        } catch (Throwable) {
            // Redis is away. What is done is not lost; whether it is still wanted shows when it is back.
            $this->wire->reconnect();

            return true;
        }
    }

    public function failed(string $message): void
    {
        $this->failure = $message;
    }

    /** Gives an order back and ends: this worker would fail everything it takes. */
    private function refuse(): void
    {
        Log::error('This worker does not see the files of the application: its data folder is not shared with it, and HAFEN_SHARED_DISK names no disk that is. See docs/scaling.md.');
        $this->wire->tell($this->report(ReportKind::Left));
        $this->order = null;
        $this->app->make(QueueWorker::class)->shouldQuit = true;
        // Others have time to take it.
        sleep(self::AFTER_REFUSAL);
    }

    /** Has the rows of an order, and nothing else, in the database. */
    private function load(Order $order): Model&Task
    {
        if (! Schema::hasTable('renders')) {
            $this->app->make(Kernel::class)->call('migrate', ['--force' => true, '--quiet' => true]);
            SampleLoops::keepSignalsOut();
        }
        foreach (self::TABLES as $table) {
            DB::table($table)->delete();
            foreach ($order->rows[$table] ?? [] as $row) {
                DB::table($table)->insert($row);
            }
        }
        $task = $order->task::query()->findOrFail($order->key);
        // As whoever wrote the order saw it; another that was taken for lost may have had it.
        $task->newQuery()->whereKey($task->getKey())->update(['status' => 'waiting', 'claim' => null, 'attempts' => 0]);

        return $task->refresh();
    }

    private function tellEnd(Order $order, Model&Task $task): void
    {
        $row = (array) DB::table($task->getTable())->where('id', $order->key)->first();
        /** @var array<string, mixed> $row */
        $before = $order->rows[$task->getTable()][0] ?? [];
        $known = array_column($order->rows['media'] ?? [], 'id');
        /** @var list<array<string, mixed>> $media */
        $media = DB::table('media')->whereNotIn('id', $known)->get()->map(static fn (mixed $row): array => (array) $row)->values()->all();
        $status = $row['status'] ?? 'stopped';
        $files = $this->failure === '' && $status !== 'waiting' ? $this->shared($task, $media) : [];
        $report = match (true) {
            $this->failure !== '' => $this->report(ReportKind::Failed, message: $this->failure),
            $status === 'waiting' => $this->report(ReportKind::Left),
            default => $this->report(ReportKind::Ended, [...Orders::changed($before, $row), 'status' => $status], $media, $files),
        };
        for ($until = microtime(true) + self::PATIENCE; ;) {
            try {
                $this->wire->tell($report);

                return;
            } catch (Throwable $failure) {
                if (microtime(true) > $until || $this->app->make(QueueWorker::class)->shouldQuit) {
                    report($failure);

                    return;
                }
                $this->wire->reconnect();
                sleep(1);
                SampleLoops::pause();
            }
        }
    }

    /**
     * @param  list<array<string, mixed>>  $media
     * @return list<string>
     */
    private function shared(Model&Task $task, array $media): array
    {
        try {
            return $this->files->share($task, $media);
        } catch (Throwable $failure) {
            report($failure);
            $this->failed("{$task->name()} was done, but its files could not be put on the shared disk. Start it again.");

            return [];
        }
    }

    /**
     * @param  array<string, mixed>  $columns
     * @param  list<array<string, mixed>>  $media
     * @param  list<string>  $files
     */
    private function report(ReportKind $kind, array $columns = [], array $media = [], array $files = [], string $message = ''): Report
    {
        assert($this->order !== null);

        return new Report($kind, $this->order->word, $this->order->task, $this->order->key, $columns, $media, $files, $message);
    }
}
