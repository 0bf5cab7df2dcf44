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
use Illuminate\Support\Facades\DB;

/** Which files of the data folder a task needs, and which it makes. */
final readonly class WorkerFiles
{
    public function __construct(private SharedFiles $files, private MediaFolder $folder, private SurveyStore $store)
    {
    }

    /** Whether this worker has the files of whoever wrote an order. */
    public function areThoseOf(Order $order): bool
    {
        return $this->files->areOf($order->files);
    }

    /** Fetches the sound that sessions of an order play; it is in the database already. */
    public function need(): void
    {
        if (! $this->files->isNeeded()) {
            return;
        }
        $rates = DB::table('sessions')->pluck('document')->map(static fn (mixed $document): int => preg_match('/"sampleRate":(\d+)/', is_string($document) ? $document : '', $found) === 1 ? (int) $found[1] : 0)->all();
        foreach (Media::query()->get() as $media) {
            $this->files->bring(self::placesOf($media, $rates));
        }
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
            $task instanceof Media => array_map(static fn (string $path): string => 'media/'.basename($path), $this->folder->filesOf($task)),
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

    /**
     * @param  array<array-key, int>  $rates  of sessions
     * @return list<string>
     */
    public static function placesOf(Media $media, array $rates): array
    {
        return array_values(array_unique([
            "media/{$media->id}.{$media->extension}", "media/{$media->id}.decoded.wav",
            ...array_map(static fn (int $rate): string => "media/{$media->id}.{$rate}.wav", array_values($rates)),
        ]));
    }

    private static function text(mixed $value): string
    {
        return is_string($value) ? $value : '';
    }
}
