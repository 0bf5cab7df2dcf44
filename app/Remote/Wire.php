<?php

declare(strict_types=1);

namespace App\Remote;

use Illuminate\Contracts\Redis\Factory;
use Illuminate\Redis\Connections\Connection;
use Throwable;

/**
 * What goes between workers and the application through Redis, beside the queue itself: reports of workers in a list, and the
 * claims of those that are to stop.
 *
 * A report that was taken off stays in a second list until it is dealt with, so that a killed process loses none. What Redis itself loses is found
 * out by the beats that are missing.
 */
final readonly class Wire
{
    private const REPORTS = 'hafen:reports';

    private const IN_HAND = 'hafen:reports:in-hand';

    /** Seconds for which a claim is remembered as taken, or as to be stopped. */
    private const REMEMBERED = 86_400;

    public function __construct(private Factory $redis)
    {
    }

    /** Takes an order; false where another worker has it. */
    public function take(string $word): bool
    {
        return $this->connection()->command('set', ["hafen:taken:{$word}", '1', 'EX', self::REMEMBERED, 'NX']) !== null;
    }

    public function tell(Report $report): void
    {
        $this->connection()->command('lpush', [self::REPORTS, [$report->packed()]]);
    }

    /** Has whoever works under a claim stop at the next beat. */
    public function stop(string $word): void
    {
        $this->connection()->command('setex', ["hafen:stop:{$word}", self::REMEMBERED, '1']);
    }

    public function isStopped(string $word): bool
    {
        return (bool) $this->connection()->command('exists', ["hafen:stop:{$word}"]);
    }

    /**
     * The next report as it was packed; {@see done()} when it is dealt with.
     *
     * @param  int  $seconds  to wait for one
     */
    public function next(int $seconds): ?string
    {
        $report = $this->connection()->command('blmove', [self::REPORTS, self::IN_HAND, 'RIGHT', 'LEFT', $seconds]);

        return is_string($report) ? $report : null;
    }

    public function done(string $packed): void
    {
        $this->connection()->command('lrem', [self::IN_HAND, 0, $packed]);
    }

    /** @return list<string> reports a killed process took off and did not deal with, the oldest first */
    public function leftInHand(): array
    {
        $left = $this->connection()->command('lrange', [self::IN_HAND, 0, -1]);

        return array_reverse(array_values(array_filter(is_array($left) ? $left : [], is_string(...))));
    }

    private function connection(): Connection
    {
        return $this->redis->connection();
    }

    /** Drops a connection that broke: the next use makes another. */
    public function reconnect(): void
    {
        try {
            $this->connection()->command('disconnect');
        } catch (Throwable) {
            // It is gone already.
        }
    }
}
