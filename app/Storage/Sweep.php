<?php

declare(strict_types=1);

namespace App\Storage;

use App\Media\MediaFolder;
use App\Models\Listening;
use App\Models\StoredSession;
use App\Models\Upload;
use App\Remote\SharedFiles;
use App\Surveys\CaptureRoom;

/** Removes what killed processes left on the disk, and what nobody comes back for. */
final readonly class Sweep
{
    /** Seconds after which an unfinished file that nobody writes to is given up. */
    private const UNFINISHED = 900;

    /** Seconds for which the files of a print can be downloaded. */
    private const ARCHIVE = 86_400;

    /** Days after which an upload that was not finished is given up. */
    private const UPLOAD_DAYS = 7;

    /** Hours for which a deleted session can be brought back. */
    public const SESSION_HOURS = 24;

    public function __construct(private MediaFolder $folder, private Storage $storage, private SharedFiles $shared, private CaptureRoom $captured)
    {
    }

    /** @return int files removed */
    public function look(): int
    {
        $removed = 0;
        foreach ($this->folder->unfinished() as $path) {
            if ((int) @filemtime($path) < time() - self::UNFINISHED && @unlink($path)) {
                ++$removed;
            }
        }
        foreach ($this->folder->archives() as $path) {
            if ((int) @filemtime($path) < time() - self::ARCHIVE && @unlink($path)) {
                ++$removed;
            }
        }
        foreach (Upload::query()->where('updated_at', '<', now()->subDays(self::UPLOAD_DAYS))->get() as $upload) {
            @unlink($this->folder->upload($upload->id));
            $upload->delete();
            ++$removed;
        }
        foreach (StoredSession::onlyTrashed()->where('deleted_at', '<', now()->subHours(self::SESSION_HOURS))->get() as $session) {
            $this->storage->removeSession($session);
        }
        $this->shared->shrink('surveys', $this->captured->bytes(), CaptureRoom::SPARE);
        Listening::query()->where('created_at', '<', now()->subDay())->delete();

        return $removed;
    }
}
