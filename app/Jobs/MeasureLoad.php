<?php

declare(strict_types=1);

namespace App\Jobs;

use App\Loads\LoadDesk;
use App\Models\LoadRun;
use App\Work\Claim;
use Illuminate\Contracts\Queue\ShouldQueue;
use Illuminate\Foundation\Queue\Queueable;

/** Measures what a session takes of the machine. */
final class MeasureLoad implements ShouldQueue
{
    use Queueable;

    public int $timeout = 0;

    public int $tries = 1;

    public function __construct(private readonly int $runId)
    {
    }

    public function handle(LoadDesk $desk): void
    {
        $this->job?->delete();
        Claim::work(LoadRun::query()->findOrFail($this->runId), static fn (Claim $claim) => $desk->measure($claim));
    }
}
