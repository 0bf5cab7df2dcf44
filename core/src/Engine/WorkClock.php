<?php

declare(strict_types=1);

namespace Hafen\Engine;

/** Tells what share of a core this process had since it was made: on a busy machine, time on the wall says nothing about load. */
final readonly class WorkClock
{
    private function __construct(private float $worked, private float $wall)
    {
    }

    public static function start(): self
    {
        /** @var array<string, int> $usage */
        $usage = getrusage() ?: [];
        $worked = ($usage['ru_utime.tv_sec'] ?? 0) + ($usage['ru_stime.tv_sec'] ?? 0) + (($usage['ru_utime.tv_usec'] ?? 0) + ($usage['ru_stime.tv_usec'] ?? 0)) / 1e6;

        return new self($worked, hrtime(true) / 1e9);
    }

    /** From 0.05 to 1. */
    public function shareOfCore(): float
    {
        $now = self::start();

        return max(0.05, min(1.0, ($now->worked - $this->worked) / max(1e-6, $now->wall - $this->wall)));
    }
}
