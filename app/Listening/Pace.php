<?php

declare(strict_types=1);

namespace App\Listening;

/** Keeps a stream at most so far ahead of the clock; where the engine falls behind, the clock waits for it. */
final class Pace
{
    private float $start;

    private float $sent = 0.0;

    /** @param  float  $lead seconds, at most 0.4 */
    public function __construct(private readonly float $lead)
    {
        $this->start = microtime(true);
    }

    /** Takes note of seconds of sound sent, and waits while they are too far ahead. */
    public function sent(float $seconds): void
    {
        $this->sent += $seconds;
        $ahead = $this->sent - (microtime(true) - $this->start);
        if ($ahead < 0.0) {
            $this->start = microtime(true) - $this->sent;
        } elseif ($ahead > $this->lead) {
            usleep((int) (($ahead - $this->lead) * 1e6));
        }
    }
}
