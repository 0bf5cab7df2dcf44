<?php

declare(strict_types=1);

namespace App\Work;

/** Who has to hear of what a worker does, where the database it works on is not the one the task comes from. */
interface Overseer
{
    /**
     * Hears that a worker is alive.
     *
     * @param  array<string, mixed>  $columns  of the task that changed
     * @return bool false when the work should stop
     */
    public function beaten(array $columns): bool;

    /** Hears why a task failed. */
    public function failed(string $message): void;
}
