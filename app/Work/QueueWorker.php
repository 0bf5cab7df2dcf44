<?php

declare(strict_types=1);

namespace App\Work;

use Hafen\Audio\SampleLoops;
use Illuminate\Queue\Worker;
use Illuminate\Queue\WorkerOptions;

/**
 * A worker that takes signals between blocks and between jobs only, and sets no alarms: both would interrupt sample loops.
 * A job that runs hears of it at its next beat, see {@see Claim}.
 */
final class QueueWorker extends Worker
{
    public function daemon($connectionName, $queue, WorkerOptions $options)
    {
        if (extension_loaded('pcntl')) {
            SampleLoops::keepSignalsOut();
            $this->listenForSignals();
            // After that: setting a handler lets its signal in.
            SampleLoops::holdSignals();
        }

        return parent::daemon($connectionName, $queue, $options);
    }

    /** As the parent does, but without ever switching asynchronous signals on: one that came right then crashed the JIT. */
    protected function listenForSignals()
    {
        foreach ([SIGQUIT, SIGTERM, SIGINT] as $signal) {
            pcntl_signal($signal, fn (): bool => $this->shouldQuit = true);
        }
        pcntl_signal(SIGUSR2, fn (): bool => $this->paused = true);
        pcntl_signal(SIGCONT, fn (): bool => $this->paused = false);
    }

    /** Keeps the parent from switching asynchronous signals and alarms on. */
    protected function supportsAsyncSignals()
    {
        return false;
    }

    protected function daemonShouldRun(WorkerOptions $options, $connectionName, $queue)
    {
        SampleLoops::pause();

        return parent::daemonShouldRun($options, $connectionName, $queue);
    }

    /** @return ?array<array-key, mixed> */
    protected function stopIfNecessary(WorkerOptions $options, $lastRestart, $startTime = 0, $jobsProcessed = 0, $job = null, $lastJobProcessedAt = 0)
    {
        SampleLoops::pause();

        return parent::stopIfNecessary($options, $lastRestart, $startTime, $jobsProcessed, $job, $lastJobProcessedAt);
    }
}
