<?php

declare(strict_types=1);

namespace App\Jobs;

use App\Media\Importer;
use App\Models\Media;
use App\Work\Claim;
use Illuminate\Contracts\Queue\ShouldQueue;
use Illuminate\Foundation\Queue\Queueable;

/** Makes an imported file ready to be played in a session. */
final class PrepareMedia implements ShouldQueue
{
    use Queueable;

    public int $timeout = 0;

    public int $tries = 1;

    public function __construct(private readonly string $mediaId)
    {
    }

    public function handle(Importer $importer): void
    {
        $this->job?->delete();
        Claim::work(Media::query()->findOrFail($this->mediaId), static fn (Claim $claim) => $importer->prepare($claim));
    }
}
