<?php

declare(strict_types=1);

namespace App\Storage;

use App\Media\MediaFolder;
use App\Models\Listening;
use App\Models\Upload;

/** Removes what killed processes left on the disk, and what nobody comes back for. */
final readonly class Sweep
{
    /** Seconds after which an unfinished file that nobody writes to is given up. */
    private const UNFINISHED = 900;

    /** Days after which an upload that was not finished is given up. */
    private const UPLOAD_DAYS = 7;

    public function __construct(private MediaFolder $folder)
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
        foreach (Upload::query()->where('updated_at', '<', now()->subDays(self::UPLOAD_DAYS))->get() as $upload) {
            @unlink($this->folder->upload($upload->id));
            $upload->delete();
            ++$removed;
        }
        Listening::query()->where('created_at', '<', now()->subDay())->delete();

        return $removed;
    }
}
