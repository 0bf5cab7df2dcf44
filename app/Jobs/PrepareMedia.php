<?php

declare(strict_types=1);

namespace App\Jobs;

use App\Media\Importer;
use App\Models\Media;
use Hafen\Refusal;
use Illuminate\Contracts\Queue\ShouldQueue;
use Illuminate\Foundation\Queue\Queueable;
use Throwable;

/** Makes an imported file ready to be played in a session. */
final class PrepareMedia implements ShouldQueue
{
    use Queueable;

    public int $timeout = 0;

    public int $tries = 1;

    public function __construct(private readonly string $mediaId, private readonly int $sampleRate)
    {
    }

    public function handle(Importer $importer): void
    {
        $media = Media::query()->findOrFail($this->mediaId);
        try {
            $importer->prepare($media, $this->sampleRate);
        } catch (Refusal $refusal) {
            $media->update(['status' => 'failed', 'message' => $refusal->getMessage()]);
        }
    }

    public function failed(?Throwable $exception): void
    {
        Media::query()->whereKey($this->mediaId)->update([
            'status' => 'failed',
            'message' => 'The import stopped unexpectedly. Import the file again.',
        ]);
    }
}
