<?php

declare(strict_types=1);

namespace App\Remote;

use App\Media\MediaFolder;
use App\Models\Media;
use App\Models\PrintPart;
use App\Models\Render;
use App\Work\Task;
use Hafen\Survey\SurveyStore;
use Illuminate\Database\Eloquent\Model;

/** Which files of the data folder a task needs, and which it makes. */
final readonly class WorkerFiles
{
    public function __construct(private SharedFiles $files, private MediaFolder $folder, private SurveyStore $store)
    {
    }

    /** Whether this worker has the files of whoever wrote an order. */
    public function areThoseOf(Order $order): bool
    {
        return $this->files->areOf($order->filesWord);
    }

    /** Fetches what an order needs. */
    public function need(Order $order): void
    {
        $this->files->bring($order->files);
    }

    /**
     * Puts on the shared disk what a task made.
     *
     * @param  list<array<string, mixed>>  $media  rows of files that were made
     * @return list<string> places of what the application wants to have
     */
    public function share(Model&Task $task, array $media): array
    {
        if (! $this->files->isNeeded()) {
            return [];
        }
        [$measures, $captures] = $this->store instanceof SharedStore ? $this->store->takeMade() : [[], []];
        $made = match (true) {
            $task instanceof Render => ["renders/{$task->id}.wav"],
            $task instanceof Media => $this->folder->placesOf($task),
            $task instanceof PrintPart => ["renders/{$task->batch_id}.zip"],
            default => [],
        };
        foreach ($media as $row) {
            $made[] = 'media/'.self::text($row['id'] ?? '').'.'.self::text($row['extension'] ?? '');
        }
        $made = array_values(array_filter($made, fn (string $file): bool => $this->folder->has($file)));
        $this->files->share([...$captures, ...$measures, ...$made]);

        return [...$measures, ...$made];
    }

    private static function text(mixed $value): string
    {
        return is_string($value) ? $value : '';
    }
}
