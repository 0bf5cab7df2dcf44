<?php

declare(strict_types=1);

namespace App\Jobs;

use App\Models\RemedyPlan;
use App\Plans\PlanDesk;
use App\Work\Claim;
use Illuminate\Contracts\Queue\ShouldQueue;
use Illuminate\Foundation\Queue\Queueable;

/** Finds out what remedies would do: what shows first goes before the proofs of others. */
final class PredictPlan implements ShouldQueue
{
    use Queueable;

    public int $timeout = 0;

    public int $tries = 1;

    public function __construct(private readonly int $planId, private readonly bool $isProof)
    {
    }

    public function handle(PlanDesk $desk): void
    {
        $this->job?->delete();
        Claim::work(RemedyPlan::query()->findOrFail($this->planId), fn (Claim $claim) => $desk->predict($claim, $this->isProof));
    }
}
