<?php

declare(strict_types=1);

namespace App\Work;

/**
 * A row that a worker of the queue works on: a render, a part of a survey, a prediction, an import. Its table has `status`,
 * `claim`, `attempts`, `queued_at`, `beat_at`, `progress`.
 *
 * Status "waiting": a worker may take it. "running": one has it. "stopping": somebody wants it stopped. Any other: it has ended.
 */
interface Task
{
    /** The queue its job goes on, see {@see TaskJobs}. */
    public function queue(): string;

    /** "The render": how messages begin. */
    public function name(): string;

    /**
     * What becomes of the row when it failed.
     *
     * @return array<string, mixed>
     */
    public function failed(string $message): array;
}
