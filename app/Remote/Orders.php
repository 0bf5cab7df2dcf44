<?php

declare(strict_types=1);

namespace App\Remote;

use App\Models\LoadRun;
use App\Models\Media;
use App\Models\PrintPart;
use App\Models\RemedyPlan;
use App\Models\Render;
use App\Models\SurveyPart;
use App\Work\Task;
use Illuminate\Database\Eloquent\Model;
use Illuminate\Support\Facades\DB;
use LogicException;

/** Writes orders: a task with the rows its job reads. */
final class Orders
{
    /** Columns that say who does a task and how it goes; they are kept where it comes from. */
    private const OF_THE_CLAIM = ['claim', 'attempts', 'queued_at', 'beat_at', 'created_at', 'updated_at'];

    /** @param  string  $files  word of the files it needs, see {@see SharedFiles::word()} */
    public static function of(Model&Task $task, string $files): Order
    {
        $rows = match (true) {
            $task instanceof Render, $task instanceof Media => [],
            $task instanceof SurveyPart => [...self::rows('surveys', $task->survey_id), ...self::rows('sessions', DB::table('surveys')->where('id', $task->survey_id)->value('session_id'))],
            $task instanceof RemedyPlan, $task instanceof LoadRun => self::rows('sessions', $task->session_id),
            $task instanceof PrintPart => self::rows('print_batches', $task->batch_id),
            default => throw new LogicException('No order is written for '.$task::class),
        };
        $session = $rows['sessions'][0]['id'] ?? $rows['print_batches'][0]['session_id'] ?? $task->getAttribute('session_id');
        $media = DB::table('media')->whereIn('id', DB::table('session_media')->where('session_id', $session)->select('media_id'))->get()->map(self::columns(...))->all();
        $key = $task->getKey();
        assert(is_string($key) || is_int($key));

        return new Order(bin2hex(random_bytes(8)), $task::class, (string) $key, ['media' => array_values($media), ...self::rows($task->getTable(), $key), ...$rows], $files);
    }

    /**
     * What a job changed of a row, without who did it and when.
     *
     * @param  array<string, mixed>  $before
     * @param  array<string, mixed>  $after
     * @return array<string, mixed>
     */
    public static function changed(array $before, array $after): array
    {
        $changed = [];
        foreach (array_diff_key($after, array_flip(self::OF_THE_CLAIM)) as $column => $value) {
            if (! array_key_exists($column, $before) || $before[$column] !== $value) {
                $changed[$column] = $value;
            }
        }

        return $changed;
    }

    /** @return array<string, list<array<string, mixed>>> */
    private static function rows(string $table, mixed $id): array
    {
        return [$table => array_values(DB::table($table)->where('id', $id)->get()->map(self::columns(...))->all())];
    }

    /** @return array<string, mixed> */
    private static function columns(mixed $row): array
    {
        /** @var array<string, mixed> $columns */
        $columns = (array) $row;

        return $columns;
    }
}
