<?php

declare(strict_types=1);

namespace Hafen\Audio;

use Hafen\Refusal;

/** Work on samples was asked for in a process in which something may interrupt it: it would compute wrong samples. */
final class LoopsNotSafe extends Refusal
{
    public static function asynchronousSignals(): self
    {
        return new self('engine', 'Asynchronous signals are on. Call pcntl_async_signals(false) first; signals are taken between blocks.');
    }

    public static function timeLimit(int $seconds): self
    {
        return new self('engine', "A time limit of {$seconds} s is set. Call SampleLoops::liftTimeLimits() first.");
    }

    public static function inputTimeLimit(int $seconds): self
    {
        return new self('engine', "A time limit of {$seconds} s for reading input is set, and runs on while PHP works. Set max_input_time to -1, or call SampleLoops::liftTimeLimits() first.");
    }

    public static function alarm(int $seconds): self
    {
        return new self('engine', "An alarm is set for {$seconds} s from now. Call pcntl_alarm(0) first.");
    }
}
