<?php

declare(strict_types=1);

namespace App\Storage;

use App\Hardware\InterfaceDesk;
use App\Media\DiskRoom;
use App\Media\MediaFolder;
use App\Models\Media;
use App\Models\Render;
use App\Models\StoredSession;
use App\Remote\SharedFiles;
use App\Sessions\SessionBook;
use Hafen\Survey\SurveyStore;
use Illuminate\Database\Query\Builder;
use Illuminate\Support\Facades\DB;

/** What lies on the disk, how large it is, what uses it; and its removal where nothing does. */
final readonly class Storage
{
    /** Revisions that stay when a session is thinned. */
    public const KEPT_REVISIONS = 200;

    public function __construct(private MediaFolder $folder, private DiskRoom $room, private SurveyStore $surveys, private SessionBook $book, private SharedFiles $shared, private InterfaceDesk $interface)
    {
    }

    /** @return array<string, mixed> sizes in bytes */
    public function contents(): array
    {
        $users = $this->users();

        return [
            'free' => $this->room->free(),
            'reserve' => $this->room->reserve,
            'captured' => $this->folder->size('surveys'),
            'keptRevisions' => self::KEPT_REVISIONS,
            'sessions' => StoredSession::query()->withTrashed()->orderByDesc('updated_at')->get()->map(static fn (StoredSession $session): array => [
                'id' => $session->id,
                'name' => $session->name,
                'bytes' => strlen($session->document) + self::bytes('select coalesce(sum(length(difference) + length(touches) + length(label) + 60), 0) as bytes from revisions where session_id = ?', $session->id),
                'revisions' => $session->revisions()->count(),
                'at' => $session->updated_at?->toIso8601String(),
                'deleted' => $session->trashed(),
            ])->values()->all(),
            'media' => Media::query()->orderBy('name')->get()->map(fn (Media $media): array => [
                'id' => $media->id,
                'name' => $media->name,
                'status' => $media->isPreparing() ? 'preparing' : $media->status,
                'message' => $media->message,
                'format' => $media->format,
                'sampleRate' => $media->sample_rate,
                'channels' => $media->channels,
                'frames' => $media->frames,
                'unreadable' => $media->unreadable,
                'bytes' => $this->folder->sizeOf($media),
                'frozenFrom' => $media->frozen_from,
                'usedBy' => $users[$media->id] ?? [],
            ])->values()->all(),
            'renders' => Render::query()->where('status', 'done')->orderByDesc('created_at')->get()->map(fn (Render $render): array => [
                'id' => $render->id,
                'name' => $render->name,
                'session' => $render->session_id,
                'bytes' => (int) @filesize($this->folder->render($render->id)),
                'at' => $render->created_at?->toIso8601String(),
            ])->values()->all(),
        ];
    }

    /**
     * Removes a recording nothing uses.
     *
     * @throws StillUsed naming what uses it
     */
    public function removeMedia(Media $media): void
    {
        DB::transaction(function () use ($media): void {
            $users = $this->users()[$media->id] ?? [];
            if ($users !== []) {
                throw StillUsed::by($media->name, $users);
            }
            if ($media->isPreparing()) {
                throw StillUsed::preparing($media->name);
            }
            $media->delete();
        });
        $this->shared->remove($this->folder->placesOf($media));
        foreach ($this->folder->filesOf($media) as $path) {
            @unlink($path);
        }
    }

    /** @return int how many recordings were removed */
    public function removeUnusedMedia(): int
    {
        $users = $this->users();
        $removed = 0;
        foreach (Media::query()->get() as $media) {
            if (($users[$media->id] ?? []) === [] && ! $media->isPreparing()) {
                $this->removeMedia($media);
                ++$removed;
            }
        }

        return $removed;
    }

    /** What was captured is captured again when it is needed. */
    public function removeCaptured(): void
    {
        $this->surveys->shrink(0);
        $this->shared->shrink('surveys', 0);
    }

    public function removeRender(Render $render): void
    {
        Render::query()->whereKey($render->id)->whereIn('status', ['waiting', 'running'])->update(['status' => 'stopping']);
        @unlink($this->folder->render($render->id));
        $this->shared->remove(["renders/{$render->id}.wav"]);
        $render->delete();
    }

    public function removeSession(StoredSession $session): void
    {
        foreach (Render::query()->where('session_id', $session->id)->get() as $render) {
            $this->removeRender($render);
        }
        $session->forceDelete();
    }

    /** @return int revisions removed */
    public function thin(StoredSession $session): int
    {
        return $this->book->thin($session->id, self::KEPT_REVISIONS);
    }

    /** @return array<array-key, list<string>> names of sessions and presets, by the recording they use */
    private function users(): array
    {
        $users = [];
        foreach (DB::table('session_media')->join('sessions', 'sessions.id', '=', 'session_media.session_id')->leftJoin('media', 'media.id', '=', 'session_media.media_id')
            // A freeze that only older revisions play can be made again.
            ->where(static fn (Builder $query) => $query->whereNull('media.frozen_from')->orWhereRaw('instr(sessions.document, session_media.media_id) > 0'))
            ->get(['media_id', 'sessions.name']) as $row) {
            /** @var object{media_id: string, name: string} $row */
            $users[$row->media_id][] = $row->name;
        }
        foreach (['presets' => 'parameters', 'row_presets' => 'inserts', 'split_presets' => 'split'] as $table => $column) {
            foreach (DB::table($table)->where($column, 'like', '%"recording"%')->get(['name', "{$column} as json"]) as $row) {
                /** @var object{name: string, json: string} $row */
                preg_match_all('/"recording":"([0-9A-Za-z]+)"/', $row->json, $found);
                foreach ($found[1] as $id) {
                    $users[$id][] = "preset {$row->name}";
                }
            }
        }

        foreach ($this->interface->files() as $file) {
            $users[$file][] = 'the audio interface';
        }

        return array_map(static fn (array $names): array => array_values(array_unique($names)), $users);
    }

    private static function bytes(string $query, int $session): int
    {
        /** @var object{bytes: int} $row */
        $row = DB::selectOne($query, [$session]);

        return (int) $row->bytes;
    }
}
