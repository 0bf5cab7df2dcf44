<?php

declare(strict_types=1);

namespace App\Listening;

use Closure;

/**
 * Keeps a stream at most so far ahead of the clock; where the engine falls behind, the clock waits for it. Where all comes in time it comes nearer to the clock step by step, so
 * that edits are heard sooner, and goes back at the first piece that comes late.
 */
final class Pace
{
    private float $start;

    private float $sent = 0.0;

    private float $load = 0.0;

    private readonly Closure $clock;

    private readonly Closure $wait;

    /** As near as it comes, in seconds, and by how much at a time. */
    private const NEAREST = 0.08;

    private const STEP = 0.01;

    /** As near where somebody plays keys, who hears how late they sound. */
    private const NEAREST_PLAYED = 0.03;

    /** Seconds for which all has to come in time before it comes nearer, and after one that came late. */
    private const CALM = 2.0;

    private const AFTER_LATE = 30.0;

    private const AFTER_LATE_PLAYED = 5.0;

    /** A piece comes in time where at most this part of the lead was used up, and late where this part was. */
    private const IN_TIME = 0.4;

    private const LATE = 0.6;

    /** Seconds ahead it is kept now. */
    private float $kept;

    /** Whether the lead was reached: until then it builds up. */
    private bool $hasLead = false;

    private bool $isPlayed = false;

    /** When it may come nearer. */
    private float $nearerAt;

    /** Part of its time that the engine may take, in the mean, before it is kept further ahead: what is late then is not heard. */
    private const HEAVY = 0.6;

    /** The same where keys are played: a little later is heard at once by who plays them. */
    private const HEAVY_PLAYED = 0.8;

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
        $this->kept = $lead;
        $this->nearerAt = $this->start + self::CALM;
    }

    /** Whether somebody plays keys: then it comes as near as it can at once, and otherwise goes back to what was asked for. */
    public function comeNear(bool $isPlayed): void
    {
        if ($isPlayed !== $this->isPlayed) {
            $this->isPlayed = $isPlayed;
            $this->kept = $isPlayed ? min($this->kept, self::NEAREST_PLAYED) : $this->lead;
        }
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
        $now = ($this->clock)();
        $ahead = $this->sent - ($now - $this->start);
        $lead = $this->load > ($this->isPlayed ? self::HEAVY_PLAYED : self::HEAVY) ? max($this->lead, self::HEAVY_LEAD) : $this->adjusted($now, $ahead - $seconds);
        if ($ahead < 0.0) {
            $this->start = $now - $this->sent;
            $this->hasLead = false;
        } elseif ($ahead > $lead) {
            $this->hasLead = true;
            ($this->wait)($ahead - $lead);
        }
    }

    /** @param  float  $left  seconds of the lead that were left when a piece was sent */
    private function adjusted(float $now, float $left): float
    {
        $nearest = $this->isPlayed ? self::NEAREST_PLAYED : self::NEAREST;
        $used = $this->hasLead ? $this->kept - $left : 0.0;
        if ($used > self::LATE * $this->kept) {
            $this->kept = $this->isPlayed ? min($this->lead, 2.0 * $this->kept) : $this->lead;
            // It builds up again first.
            $this->hasLead = false;
            $this->nearerAt = $now + ($this->isPlayed ? self::AFTER_LATE_PLAYED : self::AFTER_LATE);
        } elseif ($used > self::IN_TIME * $this->kept) {
            $this->nearerAt = max($this->nearerAt, $now + self::CALM);
        } elseif ($now >= $this->nearerAt && $this->kept > $nearest) {
            $this->kept = max($nearest, $this->kept - self::STEP);
            $this->nearerAt = $now + self::CALM;
        }

        return $this->kept;
    }
}
