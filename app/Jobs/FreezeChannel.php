<?php

declare(strict_types=1);

namespace App\Jobs;

use App\Freezes\FreezeDesk;
use App\Models\Freeze;
use App\Work\Claim;
use Illuminate\Contracts\Queue\ShouldQueue;
use Illuminate\Foundation\Queue\Queueable;

/** Renders a channel up to its fader; the last of a batch has all of them played from their files. */
final class FreezeChannel implements ShouldQueue
{
    use Queueable;

    public int $timeout = 0;

    public int $tries = 1;

    public function __construct(private readonly int $freezeId)
    {
    }

    public function handle(FreezeDesk $desk): void
    {
        $this->job?->delete();
        $freeze = Freeze::query()->findOrFail($this->freezeId);
        Claim::work($freeze, static fn (Claim $claim) => $desk->render($claim));
        $desk->goOn($freeze->batch()->firstOrFail());
    }
}
