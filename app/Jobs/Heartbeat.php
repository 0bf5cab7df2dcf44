<?php

declare(strict_types=1);

namespace App\Jobs;

use Illuminate\Database\Eloquent\Model;

/**
 * Writes progress to a row a few times a second, which also tells that the worker is alive; and notices when somebody
 * asked to stop.
 */
final class Heartbeat
{
    /** Seconds without a beat after which a worker is taken for lost. */
    public const LOST_AFTER = 20;

    private const EVERY = 0.3;

    private float $last = 0.0;

    public function __construct(private readonly Model $row)
    {
    }

    /** False when the work should stop. */
    public function beat(int $done, int $total): bool
    {
        $now = microtime(true);
        if ($now - $this->last < self::EVERY) {
            return true;
        }
        $this->last = $now;
        $this->row->newQuery()->whereKey($this->row->getKey())->update([
            'progress' => $total > 0 ? $done / $total : 0.0,
            'beat_at' => now(),
        ]);

        return $this->row->newQuery()->whereKey($this->row->getKey())->value('status') === 'running';
    }
}
