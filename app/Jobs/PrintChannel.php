<?php

declare(strict_types=1);

namespace App\Jobs;

use App\Models\PrintPart;
use App\Prints\PartRenderer;
use App\Work\Claim;
use Illuminate\Contracts\Queue\ShouldQueue;
use Illuminate\Foundation\Queue\Queueable;

/** Renders a channel to a file. */
final class PrintChannel implements ShouldQueue
{
    use Queueable;

    public int $timeout = 0;

    public int $tries = 1;

    public function __construct(private readonly int $partId)
    {
    }

    public function handle(PartRenderer $renderer): void
    {
        $this->job?->delete();
        Claim::work(PrintPart::query()->findOrFail($this->partId), static fn (Claim $claim) => $renderer->render($claim));
    }
}
