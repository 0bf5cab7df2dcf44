<?php

declare(strict_types=1);

namespace Hafen\Survey;

use Hafen\Session\Session;
use InvalidArgumentException;

/** A range of a session in samples: `from` is included, `to` is not. */
final readonly class TimeRange
{
    private const RUN_IN = 10.0;

    private const SHORT_RUN_IN = 1.5;

    /** Seconds around a moment in which its peak is looked for. */
    private const REACH = 0.05;

    /** @param  float  $runIn  seconds that run before it is measured, so that filters and tails are what they would be */
    public function __construct(public int $from, public int $to, public float $runIn = self::RUN_IN)
    {
        if ($from < 0 || $to <= $from) {
            throw new InvalidArgumentException("A range from {$from} to {$to} has no length.");
        }
    }

    public static function all(Session $session): self
    {
        return new self(0, max(1, $session->length));
    }

    /** Returns a short range around a position, with a short pre-roll. */
    public static function around(Session $session, int $position): self
    {
        $reach = (int) (self::REACH * $session->sampleRate);
        $from = max(0, min($session->length - 1, $position - $reach));

        return new self($from, max($from + 1, min($session->length, $position + $reach)), self::SHORT_RUN_IN);
    }

    public function frames(): int
    {
        return $this->to - $this->from;
    }

    /** Returns the source position at which the pre-roll starts, aligned to blocks. */
    public function start(int $sampleRate, int $blockSize): int
    {
        return intdiv(max(0, $this->from - (int) ($this->runIn * $sampleRate)), $blockSize) * $blockSize;
    }
}
