<?php

declare(strict_types=1);

namespace App\Jobs;

use App\Remote\Order;
use App\Remote\Outpost;
use Illuminate\Contracts\Queue\ShouldQueue;
use Illuminate\Foundation\Queue\Queueable;

/** Does a task that came with all it needs. */
final class DoOrder implements ShouldQueue
{
    use Queueable;

    public int $timeout = 0;

    public int $tries = 1;

    /** @param  string  $order  packed */
    public function __construct(private readonly string $order)
    {
    }

    public function handle(Outpost $outpost): void
    {
        $order = Order::unpacked($this->order);
        $this->job?->delete();
        $outpost->do($order);
    }
}
