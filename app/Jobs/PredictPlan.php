<?php

declare(strict_types=1);

namespace App\Jobs;

use App\Models\RemedyPlan;
use App\Plans\PlanDesk;
use Hafen\Refusal;
use Illuminate\Contracts\Queue\ShouldQueue;
use Illuminate\Foundation\Queue\Queueable;
use Throwable;

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
        if (RemedyPlan::query()->whereKey($this->planId)->where('status', 'waiting')->update(['status' => 'running', 'beat_at' => now(), 'progress' => 0.0]) === 0) {
            return;
        }
        try {
            if ($desk->predict(RemedyPlan::query()->findOrFail($this->planId), $this->isProof)) {
                self::dispatch($this->planId, true)->onQueue('proofs');
            }
        } catch (Refusal $refusal) {
            $this->close($refusal->line());
        }
    }

    public function failed(?Throwable $exception): void
    {
        $this->close('The prediction stopped unexpectedly. Ask again.');
    }

    private function close(string $message): void
    {
        RemedyPlan::query()->whereKey($this->planId)->where('status', 'running')->update(['status' => 'failed', 'message' => $message]);
    }
}
