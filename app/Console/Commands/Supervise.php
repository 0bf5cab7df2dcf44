<?php

declare(strict_types=1);

namespace App\Console\Commands;

use App\Remote\Collector;
use App\Storage\Sweep;
use App\Takes\TakeKeeper;
use App\Work\Supervisor;
use Illuminate\Console\Command;
use Throwable;

/** Looks after work whose worker is gone, once a second, and after what killed processes left on the disk, once a minute. */
final class Supervise extends Command
{
    private const SWEEP_EVERY = 60;

    protected $signature = 'hafen:supervise {--once : look once and end}';

    protected $description = 'Begins work again whose worker is gone';

    public function handle(Supervisor $supervisor, TakeKeeper $takes, Sweep $sweep, Collector $collector): int
    {
        $hasWorkersElsewhere = config('queue.default') === 'redis';
        for ($round = 0; ; ++$round) {
            $placed = 0;
            try {
                if ($hasWorkersElsewhere) {
                    // Before the look, so that no worker is taken for lost whose beats wait to be read.
                    $collector->collect(1.0);
                }
                $supervisor->look();
                // One at a time, so that nobody waits for a look while long ones are placed.
                $placed = $takes->look(1);
                if ($round % self::SWEEP_EVERY === 0) {
                    $sweep->look();
                }
            } catch (Throwable $failure) {
                // The next round may fare better: the disk was full, or the database busy.
                report($failure);
            }
            if ($this->option('once') === true) {
                return self::SUCCESS;
            }
            if (! $hasWorkersElsewhere && $placed === 0) {
                sleep(1);
            }
        }
    }
}
