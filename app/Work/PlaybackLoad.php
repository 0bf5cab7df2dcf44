<?php

declare(strict_types=1);

namespace App\Work;

use Closure;

/**
 * How much of the machine playing needs, told by the streams and read by the workers: playing comes before all background work.
 *
 * Each stream keeps a file with its load. One that is not told any more counts no longer, however its process ended.
 */
final readonly class PlaybackLoad
{
    /** Seconds between two words of a stream. */
    public const TOLD_EVERY = 0.4;

    /** Seconds after which the word of a stream counts no more. */
    private const FRESH = 2.5;

    /** So many times its load is kept for the engine: it is not even. */
    private const ROOM = 2.0;

    private Closure $clock;

    /**
     * @param  int  $cores  of this machine; one of them stays for pages and edits
     * @param  ?Closure(): float  $clock  seconds; null is the time of day
     */
    public function __construct(private string $folder, private int $cores, ?Closure $clock = null)
    {
        $this->clock = $clock ?? static fn (): float => microtime(true);
    }

    /** @param  float  $load  compute time over audio time: 1 is a whole core */
    public function tell(string $listening, float $load): void
    {
        if (! is_dir($this->folder)) {
            @mkdir($this->folder, 0o775, true);
        }
        // A stream that cannot be told of plays all the same.
        @file_put_contents($this->file($listening), sprintf('%.3F %.3F', ($this->clock)(), $load));
    }

    public function end(string $listening): void
    {
        @unlink($this->file($listening));
    }

    /** Cores that playing needs now; 0 where nothing plays. */
    public function needed(): float
    {
        $needed = 0.0;
        $now = ($this->clock)();
        foreach (glob("{$this->folder}/playing-*") ?: [] as $file) {
            [$told, $load] = sscanf((string) @file_get_contents($file), '%f %f') ?? [null, null];
            if (is_float($told) && is_float($load) && $now - $told < self::FRESH) {
                $needed += max(0.05, $load);
            }
        }

        return $needed;
    }

    /**
     * The share of its time that a worker may take, where there is a worker for each core.
     *
     * @return float 0 waits until playing ends, 1 is all of it
     */
    public function shareOfWorker(): float
    {
        $needed = $this->needed();

        return $needed === 0.0 ? 1.0 : max(0.0, min(1.0, ($this->cores - 1.0 - self::ROOM * $needed) / $this->cores));
    }

    private function file(string $listening): string
    {
        return "{$this->folder}/playing-{$listening}";
    }
}
