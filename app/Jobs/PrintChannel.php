<?php

declare(strict_types=1);

namespace App\Jobs;

use App\Models\PrintPart;
use App\Prints\PartRenderer;
use App\Prints\PrintDesk;
use App\Work\Claim;
use Illuminate\Contracts\Queue\ShouldQueue;
use Illuminate\Foundation\Queue\Queueable;

/** Renders a channel to a file; the last of a batch has all of them put into the session. */
final class PrintChannel implements ShouldQueue
{
    use Queueable;

    public int $timeout = 0;

    public int $tries = 1;

    public function __construct(private readonly int $partId)
    {
    }

    public function handle(PartRenderer $renderer, PrintDesk $desk): void
    {
        $this->job?->delete();
        $part = PrintPart::query()->findOrFail($this->partId);
        Claim::work($part, static fn (Claim $claim) => $renderer->render($claim));
        $desk->goOn($part->batch()->firstOrFail());
    }
}
