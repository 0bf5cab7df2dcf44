<?php

declare(strict_types=1);

namespace App\Remote;

use App\Work\Supervisor;
use App\Work\Task;
use App\Work\TaskJobs;
use App\Work\TaskQueue;
use Illuminate\Database\Eloquent\Builder;
use Illuminate\Database\Eloquent\Model;
use Illuminate\Support\Facades\DB;
use InvalidArgumentException;
use Throwable;

/**
 * Puts into the database what workers report. The rows there say who has a task: what is reported under another claim counts for nothing, and whoever
 * reports it is told to stop.
 */
final class Collector
{
    /** Whether reports may lie in hand that were not dealt with. */
    private bool $hasLeft = true;

    public function __construct(private readonly Wire $wire, private readonly TaskJobs $jobs, private readonly TaskQueue $queue, private readonly SharedFiles $files)
    {
    }

    /** Deals with reports as they come, for some seconds. */
    public function collect(float $seconds): void
    {
        $until = microtime(true) + $seconds;
        try {
            $left = $this->hasLeft ? $this->wire->leftInHand() : [];
            $this->hasLeft = false;
            array_walk($left, $this->take(...));
            while (microtime(true) < $until) {
                $packed = $this->wire->next(1);
                if ($packed !== null) {
                    $this->take($packed);
                }
            }
        } catch (Throwable $failure) {
            // Redis is away.
            $this->hasLeft = true;
            $this->wire->reconnect();
            report($failure);
            usleep((int) (1e6 * max(0.0, min(1.0, $until - microtime(true)))));
        }
    }

    private function take(string $packed): void
    {
        try {
            $this->apply(Report::unpacked($packed));
        } catch (InvalidArgumentException $damaged) {
            report($damaged);
        } catch (Throwable $failure) {
            // The disk is full, or Redis went: it is read again later, and holds up no other until then.
            report($failure);
            $this->hasLeft = true;

            return;
        }
        $this->wire->done($packed);
    }

    public function apply(Report $report): void
    {
        if (! in_array($report->task, Supervisor::TASKS, true)) {
            throw new InvalidArgumentException("A report came of {$report->task}, which is no task.");
        }
        $task = $report->task::query()->find($report->key);
        $mine = static fn (): Builder => $report->task::query()->whereKey($report->key)->where('claim', $report->word);
        if ($task === null) {
            $this->wire->stop($report->word);

            return;
        }
        match ($report->kind) {
            ReportKind::Taken => $this->taken($report, $task),
            ReportKind::Beat => $mine()->where('status', 'running')->update(['beat_at' => now(), ...self::told($report->columns)]) > 0 || $this->wire->stop($report->word),
            ReportKind::Ended => $this->ended($report, $task, $mine),
            ReportKind::Failed => $this->failed($report, $task, $mine),
            ReportKind::Left => $this->left($task, $mine),
        };
    }

    private function taken(Report $report, Model&Task $task): void
    {
        $taken = $task->newQuery()->whereKey($task->getKey())->where('status', 'waiting')->update([
            'status' => 'running', 'claim' => $report->word, 'beat_at' => now(), 'progress' => 0.0, 'attempts' => DB::raw('attempts + 1'),
        ]);
        if ($taken === 0 && $task->getAttribute('claim') !== $report->word) {
            $this->wire->stop($report->word);
        }
    }

    /** @param  callable(): Builder<covariant Model>  $mine */
    private function ended(Report $report, Model&Task $task, callable $mine): void
    {
        if (! $mine()->whereIn('status', ['running', 'stopping'])->exists()) {
            return;
        }
        // There before anything says so.
        $this->files->bring($report->files);
        $written = DB::transaction(static function () use ($report, $mine): bool {
            foreach ($report->media as $row) {
                DB::table('media')->insertOrIgnore($row);
            }

            return $mine()->whereIn('status', ['running', 'stopping'])->update([...$report->columns, 'claim' => null]) > 0;
        });
        if ($written) {
            $this->jobs->settle($task->refresh());
        }
    }

    /** @param  callable(): Builder<covariant Model>  $mine */
    private function failed(Report $report, Model&Task $task, callable $mine): void
    {
        // Ended for others before what follows from it.
        if ($mine()->whereIn('status', ['running', 'stopping'])->update(['claim' => null, 'status' => 'stopping']) > 0) {
            $task->refresh()->update($task->failed($report->message));
            $this->jobs->settle($task->refresh());
        }
    }

    /** @param  callable(): Builder<covariant Model>  $mine */
    private function left(Model&Task $task, callable $mine): void
    {
        $given = $mine()->where('status', 'running')->update(['status' => 'waiting', 'claim' => null, 'progress' => 0.0, 'queued_at' => now(), 'attempts' => DB::raw('max(attempts - 1, 0)')]);
        if ($given > 0) {
            $this->queue->put($task->refresh());
        }
    }

    /**
     * @param  array<string, mixed>  $columns
     * @return array<string, mixed> what may change while it is worked on
     */
    private static function told(array $columns): array
    {
        return array_intersect_key($columns, ['progress' => true, 'levels' => true]);
    }
}
