<?php

declare(strict_types=1);

namespace App\Listening;

use Closure;

/** Keeps a stream at most so far ahead of the clock; where the engine falls behind, the clock waits for it. */
final class Pace
{
    private float $start;

    private float $sent = 0.0;

    private float $load = 0.0;

    private readonly Closure $clock;

    private readonly Closure $wait;

    /** Part of its time that the engine may take, in the mean, before it is kept further ahead: what is late then is not heard. */
    private const HEAVY = 0.6;

    /** So far ahead then, in seconds. */
    private const HEAVY_LEAD = 0.25;

    /**
     * @param  float  $lead seconds, at most 0.4
     * @param  ?Closure(): float  $clock  seconds; null is the time of day
     * @param  ?Closure(float): void  $wait  for so many seconds
     */
    public function __construct(private readonly float $lead, ?Closure $clock = null, ?Closure $wait = null)
    {
        $this->clock = $clock ?? static fn (): float => microtime(true);
        $this->wait = $wait ?? static fn (float $seconds) => usleep((int) ($seconds * 1e6));
        $this->start = ($this->clock)();
    }

    /**
     * Takes note of seconds of sound sent, and waits while they are too far ahead.
     *
     * @param  float  $load  part of that time it took to make them
     */
    public function sent(float $seconds, float $load = 0.0): void
    {
        $this->sent += $seconds;
        $this->load += 0.05 * ($load - $this->load);
        $lead = $this->load > self::HEAVY ? max($this->lead, self::HEAVY_LEAD) : $this->lead;
        $now = ($this->clock)();
        $ahead = $this->sent - ($now - $this->start);
        if ($ahead < 0.0) {
            $this->start = $now - $this->sent;
        } elseif ($ahead > $lead) {
            ($this->wait)($ahead - $lead);
        }
    }
}
