<?php

declare(strict_types=1);

namespace App\Remote;

use App\Media\MediaFolder;
use App\Models\LoadRun;
use App\Models\Media;
use App\Models\PrintPart;
use App\Models\RemedyPlan;
use App\Models\Render;
use App\Models\SurveyPart;
use App\Work\Task;
use Illuminate\Database\Eloquent\Collection;
use Illuminate\Database\Eloquent\Model;
use Illuminate\Support\Facades\DB;
use LogicException;

/** Writes orders: a task with the rows its job reads, and the names of the files. */
final readonly class Orders
{
    /** Columns that say who does a task and how it goes; they are kept where it comes from. */
    private const OF_THE_CLAIM = ['claim', 'attempts', 'queued_at', 'beat_at', 'created_at', 'updated_at'];

    public function __construct(private SharedFiles $files, private MediaFolder $folder)
    {
    }

    public function of(Model&Task $task): Order
    {
        $rows = match (true) {
            $task instanceof Render, $task instanceof Media => [],
            $task instanceof SurveyPart => [...self::rows('surveys', $task->survey_id), ...self::rows('sessions', DB::table('surveys')->where('id', $task->survey_id)->value('session_id'))],
            $task instanceof RemedyPlan, $task instanceof LoadRun => self::rows('sessions', $task->session_id),
            $task instanceof PrintPart => self::rows('print_batches', $task->batch_id),
            default => throw new LogicException('No order is written for '.$task::class),
        };
        $session = $rows['sessions'][0]['id'] ?? $rows['print_batches'][0]['session_id'] ?? $task->getAttribute('session_id');
        $media = $task instanceof Media ? new Collection([$task]) : Media::query()->whereIn('id', DB::table('session_media')->where('session_id', $session)->select('media_id'))->get();
        $key = $task->getKey();
        assert(is_string($key) || is_int($key));

        return new Order(
            bin2hex(random_bytes(8)), $task::class, (string) $key, [...self::rows('media', $media->pluck('id')->all()), ...self::rows($task->getTable(), $key), ...$rows],
            $this->files->word(), array_merge([], ...$media->map(fn (Media $one): array => $this->folder->placesOf($one))->all()),
        );
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
        /** @var list<array<string, mixed>> $rows */
        $rows = array_map(static fn (mixed $row): array => (array) $row, array_values(DB::table($table)->whereIn('id', (array) $id)->get()->all()));

        return [$table => $rows];
    }
}
